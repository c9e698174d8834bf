import { press, signIn } from "./bench";
import { expect, test } from "./server";

test("a quick sum from anywhere, answered while typing and put into the field", async ({
  page,
}) => {
  await signIn(page);
  await page.getByRole("link", { name: "Lamplighter" }).click();
  await press(page, "Service the engine");
  await page.getByLabel("Odometer now").focus();
  await page.keyboard.press("Control+k");
  const sum = page.getByRole("textbox", { name: "Sum" });
  await expect(sum).toBeFocused();
  const answer = page.getByRole("dialog", { name: "Quick sum" }).getByRole("status");
  for (const [typed, words] of [
    ["2.7 l - 2.5 qt", "= 334 ml"],
    ["mid 14-21 ft-lb in Nm", "= 23.7 N·m"],
    ["3 x 946 ml", "= 2838 ml"],
    ["2.7 l - 20 Nm", "A volume and a torque do not add up."],
    ["44 800 km in mi", "= 27 837 mi"],
  ] as const) {
    await sum.fill(typed);
    await expect(answer).toHaveText(words);
  }
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Odometer now")).toHaveValue("27\u00a0837 mi");
});
