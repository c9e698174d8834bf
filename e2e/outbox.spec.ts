import {
  Outbox,
  outcomeOf,
  type NewEntry,
  type Outcome,
  type Ways,
} from "../web/src/visits/outbox";
import type { Problem } from "../web/src/api/client";
import { expect, test } from "@playwright/test";

/** What lies on a device, for any number of tabs. */
function device() {
  const kept = new Map<string, string>();
  return {
    get length() {
      return kept.size;
    },
    key: (n: number) => [...kept.keys()][n] ?? null,
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  };
}

const entry = (id: string, step = `step ${id}`): NewEntry => ({
  id,
  step,
  kind: "confirm",
  at: "2026-11-26T10:00:00Z",
  data: { items: [] },
});

const TAKEN: Outcome = { kind: "taken", sheet: {} as never, mark: "" };
const AWAY: Outcome = { kind: "unreachable", seconds: null };
const none = () => null;
const problem = (said: Partial<Problem>) => outcomeOf(said.status ?? 422, said, none);

/** A tab on a device, with a server that answers as told, and time that passes when told. */
function tab(shelf: Ways["shelf"], answer: (entry: NewEntry) => Outcome | Promise<Outcome>) {
  const sent: string[] = [];
  const later: { in: number; work: () => void }[] = [];
  let clock = 1000;
  const outbox = new Outbox({
    shelf,
    post: async (_, one) => {
      sent.push(one.id);
      return answer(one);
    },
    lock: (work) => work(),
    now: () => (clock += 1),
    after: (milliseconds, work) => {
      const one = { in: milliseconds, work };
      later.push(one);
      return () => void (later.includes(one) && later.splice(later.indexOf(one), 1));
    },
  });
  const settled = () => new Promise((resolve) => setTimeout(resolve, 5));
  const passes = async () => {
    later.splice(0).forEach(({ work }) => work());
    await settled();
  };
  const waits = () => outbox.state().waiting.map((kept) => kept.entry.id);
  const holds = () => outbox.state().held.map((kept) => kept.entry.id);
  return { outbox, sent, later, settled, passes, waits, holds };
}

test("what quick hands and two tabs write is sent, each once and in its order", async () => {
  const shelf = device();
  let open = () => {};
  const slow = new Promise<void>((resolve) => (open = resolve));
  const one = tab(shelf, async () => {
    await slow;
    return TAKEN;
  });
  const two = tab(shelf, () => AWAY);
  one.outbox.signedIn("mira");
  two.outbox.signedIn("mira");
  one.outbox.add("visit", entry("a"));
  one.outbox.add("visit", entry("b")); // while the first is on its way
  two.outbox.add("visit", entry("c")); // in another tab
  await one.settled();
  expect(one.sent).toEqual(["a"]);
  open();
  await one.settled();
  expect(new Set(one.sent)).toEqual(new Set(["a", "b", "c"]));
  expect(one.sent.indexOf("a")).toBeLessThan(one.sent.indexOf("b"));
  two.outbox.changed(); // the browser tells the other tab
  expect([one.waits(), two.waits()]).toEqual([[], []]);
});

test("without an answer it waits, as long as the server says, and survives a reload", async () => {
  const shelf = device();
  const said: Outcome[] = [AWAY, outcomeOf(429, {}, () => "7"), outcomeOf(503, {}, none)];
  const before = tab(shelf, () => said.shift() ?? TAKEN);
  before.outbox.signedIn("mira");
  before.outbox.add("visit", entry("a"));
  await before.settled();
  expect(before.outbox.state().unreachable).toBe(true);
  expect(before.later.map((one) => one.in)).toEqual([1500]);
  await before.passes();
  expect(before.later.map((one) => one.in)).toEqual([7000]);
  const after = tab(shelf, () => said.shift() ?? TAKEN);
  expect(after.waits()).toEqual(["a"]);
  after.outbox.signedIn("mira");
  await after.settled();
  await after.passes();
  expect([after.sent, after.waits()]).toEqual([["a", "a"], []]);
  expect(after.outbox.state().unreachable).toBe(false);
});

test("what will never be taken is set aside, shown, kept, and blocks nothing behind it", async () => {
  const shelf = device();
  const answers: Record<string, Outcome> = {
    closed: problem({ status: 409, detail: "This visit is closed." }),
    asked: problem({ question: true, detail: "7 litres?" }),
    gone: problem({ status: 404, detail: "Not there." }),
    page: outcomeOf(413, "<html>", none),
  };
  const { outbox, settled, waits, holds } = tab(shelf, ({ id }) => answers[id] ?? TAKEN);
  outbox.signedIn("mira");
  for (const id of [...Object.keys(answers), "behind"]) outbox.add("visit", entry(id));
  await settled();
  expect([waits(), holds()]).toEqual([[], ["closed", "asked", "gone", "page"]]);
  const again = tab(shelf, () => TAKEN); // after a reload
  expect(again.holds()).toEqual(holds());
  const question = again.outbox.state().held.find((kept) => kept.problem?.question);
  expect(question?.problem?.detail).toBe("7 litres?");
  again.outbox.signedIn("mira");
  again.outbox.add("visit", entry("answer", "step asked")); // what stood at that step is answered by it
  await again.settled();
  expect(again.sent).toEqual(["answer"]);
  expect(again.holds()).toEqual(["closed", "gone", "page"]);
  again.outbox.drop("gone");
  expect(again.holds()).toEqual(["closed", "page"]);
});

test("a fault of the server's own is tried three times, then set aside", async () => {
  const fault = (one: NewEntry) =>
    one.id === "bad" ? outcomeOf(500, { detail: "Ours, 4f2a." }, none) : TAKEN;
  const { outbox, settled, passes, sent, holds } = tab(device(), fault);
  outbox.signedIn("mira");
  outbox.add("visit", entry("bad"));
  outbox.add("visit", entry("good"));
  await settled();
  await passes();
  expect(sent).toEqual(["bad", "bad"]);
  await passes();
  expect(sent).toEqual(["bad", "bad", "bad", "good"]);
  expect(holds()).toEqual(["bad"]);
  expect(outbox.state().held[0]?.problem?.detail).toBe("Ours, 4f2a.");
});

test("an entry is sent by whoever made it, once that one is signed in", async () => {
  let signedIn = false;
  const answer = () => (signedIn ? TAKEN : outcomeOf(401, { detail: "Sign in." }, none));
  const { outbox, settled, sent, waits } = tab(device(), answer);
  const heard: string[] = [];
  outbox.hear((kept, outcome) => void heard.push(`${kept.by} ${outcome.kind}`));
  outbox.signedIn("mira");
  outbox.add("visit", entry("a"));
  await settled();
  expect([sent, waits()]).toEqual([["a"], ["a"]]);
  outbox.signedIn("");
  await settled();
  outbox.signedIn("oda");
  await settled();
  expect(sent).toEqual(["a"]);
  signedIn = true;
  outbox.signedIn("mira");
  await settled();
  expect([sent, waits()]).toEqual([["a", "a"], []]);
  expect(heard).toEqual(["mira signed out", "mira taken"]);
});

test("where the device has no room the page keeps it, says so, and sends it all the same", async () => {
  const shelf = device();
  let full = true;
  const laid = shelf.setItem;
  shelf.setItem = (key, value) => {
    if (full) throw new DOMException("no room", "QuotaExceededError");
    laid(key, value);
  };
  let away = true;
  const answers: Record<string, Outcome> = { bad: problem({ detail: "Not like that." }) };
  const { outbox, settled, passes, sent, waits, holds } = tab(shelf, ({ id }) =>
    away ? AWAY : (answers[id] ?? TAKEN),
  );
  outbox.signedIn("mira");
  outbox.add("visit", entry("a"));
  outbox.add("visit", entry("bad"));
  await settled();
  expect([waits(), outbox.state().homeless]).toEqual([["a", "bad"], 2]);
  away = false;
  await passes();
  expect([waits(), holds(), outbox.state().homeless]).toEqual([[], ["bad"], 1]);
  full = false; // room again
  outbox.drop("bad");
  outbox.add("visit", entry("b"));
  await settled();
  expect([sent.at(-1), waits(), outbox.state().homeless]).toEqual(["b", [], 0]);
});

test("before somebody leaves, what is on its way is sent, or it is said that it is not", async () => {
  let away = true;
  const { outbox, settled, passes, later } = tab(device(), () => (away ? AWAY : TAKEN));
  outbox.signedIn("mira", "Mira");
  outbox.add("visit", entry("a"));
  await settled();
  const left = outbox.sent(3000);
  await settled();
  expect(later.some((one) => one.in === 3000)).toBe(true);
  await passes(); // the time is over
  await passes();
  expect(await left).toBe(false);
  expect(outbox.state().waiting[0]?.who).toBe("Mira");
  away = false;
  const sent = outbox.sent(3000);
  await passes();
  expect(await sent).toBe(true);
});

test("what the last release kept is carried over, and rubbish is nothing", async () => {
  const shelf = device();
  shelf.setItem("oilward.outbox.visit-1", JSON.stringify([entry("old 1"), entry("old 2")]));
  shelf.setItem("oilward.outbox.visit-2", "{");
  shelf.setItem("oilward.entry.000000000000001000001.x", "null");
  const { outbox, settled, sent, waits } = tab(shelf, () => TAKEN);
  outbox.signedIn("mira");
  await settled();
  expect([sent, waits()]).toEqual([["old 1", "old 2"], []]);
  expect(shelf.getItem("oilward.outbox.visit-1")).toBeNull();
});
