import { Button, Checkbox } from "antd";
import { useState } from "react";
import { Dialog } from "../ui/Dialog";
import { Refused } from "../ui/Refused";
import { ask, type Page, type useSheetChange } from "./sheets";
import sheetsCss from "./sheets.module.css";
import textCss from "../ui/text.module.css";

/** Numbers that matter and that nobody has checked: whoever approves puts a name to each. */
export function Naming({
  page,
  change,
  close,
}: {
  page: Page;
  change: ReturnType<typeof useSheetChange>;
  close: () => void;
}) {
  const [named, setNamed] = useState<string[]>([]);
  const numbers = page.unchecked_numbers;
  const left = numbers.filter((number) => !named.includes(number.path)).length;
  return (
    <Dialog open title="Nobody has checked these" onCancel={close} footer={null} width={760}>
      <p>
        A second person compares a number with the manual. Where that is not possible, tick each one
        you answer for yourself.
      </p>
      <ul className={sheetsCss.naming}>
        {numbers.map((number) => (
          <li key={number.path}>
            <Checkbox
              checked={named.includes(number.path)}
              onChange={(event) =>
                setNamed(
                  event.target.checked
                    ? [...named, number.path]
                    : named.filter((path) => path !== number.path),
                )
              }
            >
              {number.what}: <b className={textCss.tabular}>{number.written}</b>{" "}
              <span className={textCss.soft}>by {number.by}</span>
            </Checkbox>
          </li>
        ))}
      </ul>
      <Refused said={change.error?.message} />
      <Button
        type="primary"
        disabled={left > 0 || change.isPending}
        onClick={() => change.mutate(ask.approve(page.id, named), { onSuccess: close })}
      >
        {left > 0 ? `${left} still to tick` : `Approve version ${page.version}`}
      </Button>
    </Dialog>
  );
}
