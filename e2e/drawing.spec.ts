import { readFileSync } from "node:fs";
import type { Sheet } from "../web/src/visits/outbox";
import { inHand, isClosed, isOpen, ledTo, running, taskOf } from "../web/src/visits/sheet";
import { expect, test } from "@playwright/test";
import { isDrawn } from "../web/src/glass/layouts";
import { oilTint } from "../web/src/glass/oil";
import { APART, inside, numbered, spread, type Placed } from "../web/src/glass/places";
import { scaleAngle, scaleMarks } from "../web/src/glass/scale";
import { clock } from "../web/src/planning/clock";
import { wishFor } from "../web/src/planning/wishes";
import { dropDraft, hasDraft, keepDraft, keptDraft } from "../web/src/visits/draft";
import { remaining } from "../web/src/visits/remaining";
import { runOut } from "../web/src/visits/useCall";
import { byBeginning } from "../web/src/ui/byBeginning";
import { dayWords, earlierToday, momentWords, monthWords } from "../web/src/ui/days";

/** What the client computes for drawing and telling the time; no server, no browser. */

const plug = (id: string, x: number, y: number): Placed => ({ id, label: id, role: "", x, y });

test("every layout a sheet can have is drawn", () => {
  const schema = JSON.parse(readFileSync("../docs/formats/spec-sheet.schema.json", "utf8")) as {
    properties: { model: { properties: { layout: { enum: string[] } } } };
  };
  const layouts = schema.properties.model.properties.layout.enum;
  expect(layouts.length).toBeGreaterThan(20);
  expect(layouts.filter((layout) => !isDrawn(layout))).toEqual([]);
  expect(isDrawn("tricycle, rope")).toBe(false);
});

test("plugs are numbered from above down, and no symbol lies on another", () => {
  const plugs = [plug("low", 0.5, 0.8), plug("right", 0.6, 0.2), plug("left", 0.4, 0.2)];
  expect(numbered(plugs).map(({ plug: { id }, number }) => [id, number])).toEqual([
    ["left", 1],
    ["right", 2],
    ["low", 3],
  ]);
  const heap = Array.from({ length: 9 }, (_, n) => plug(`p${n}`, 0.5 + n / 1000, 0.5));
  const places = [...spread(heap).values()];
  for (const [n, one] of places.entries()) {
    for (const other of places.slice(n + 1)) {
      expect(Math.hypot(one.x - other.x, one.y - other.y)).toBeGreaterThanOrEqual(APART - 0.01);
    }
  }
  // what stands alone stays where its plug is
  expect(spread(plugs).get("low")).toEqual({ x: 500, y: 560 });
  expect([inside(-1), inside(0.123), inside(2)]).toEqual([0, 0.12, 1]);
});

test("a wrench's scale is marked in round numbers and its needle stays on it", () => {
  expect(scaleMarks(8, 60)).toEqual([10, 20, 30, 40, 50, 60]);
  expect(scaleMarks(30, 250)).toEqual([50, 100, 150, 200, 250]);
  expect(scaleAngle(0, 0, 100)).toBe(-210);
  expect(scaleAngle(100, 0, 100)).toBe(30);
  expect(scaleAngle(50, 0, 100)).toBe(-90);
  expect(scaleAngle(500, 0, 100)).toBe(30);
});

test("oil goes from honey to coffee, and stays there", () => {
  expect(oilTint(0)).toBe("rgb(224 168 52)");
  expect(oilTint(1)).toBe("rgb(70 40 20)");
  expect(oilTint(7)).toBe(oilTint(1));
  expect(oilTint(-1)).toBe(oilTint(0));
});

test("days are said one way, whatever they are read from", () => {
  expect(dayWords("2026-11-26")).toBe("26\u00a0Nov 2026");
  expect(dayWords("2026-03-04T10:00:00Z")).toBe("4\u00a0Mar 2026");
  expect(dayWords("soon")).toBe("soon");
  expect(monthWords("2026-11-26")).toBe("Nov 2026");
  expect(momentWords("never")).toBe("never");
  expect(momentWords(new Date(2026, 10, 26, 9, 5).toISOString())).toBe("26\u00a0Nov 2026, 09:05");
});

test("clocks count down, and on past the end", () => {
  const end = "2026-11-26T10:00:00Z";
  const at = (time: string) => remaining(end, Date.parse(`2026-11-26T${time}Z`));
  expect(at("09:58:30")).toBe("1:30");
  expect(at("10:00:00")).toBe("0:00");
  expect(at("10:01:05")).toBe("1:05 over");
  expect([clock(0), clock(65), clock(600)]).toEqual(["0:00", "1:05", "10:00"]);
});

test("dragging a job past another asks for that order, past its own reservoir's for the next", () => {
  const job = (id: string, group: string, start: number, end: number) => ({
    id,
    group,
    start,
    end,
  });
  const jobs = [
    job("a", "", 0, 10),
    job("b", "engine", 10, 20),
    job("c", "engine", 20, 30),
    job("d", "gearbox", 30, 40),
  ];
  const [a, b, , d] = jobs as [(typeof jobs)[0], (typeof jobs)[0], unknown, (typeof jobs)[0]];
  expect(wishFor(jobs, d, 5)).toEqual({ first: "d", then: "b" });
  expect(wishFor(jobs, b, 32)).toEqual({ first: "d", then: "b" });
  expect(wishFor(jobs, a, 1)).toBeNull();
});

test("a wait that runs out is called once, and one that is long over not at all", () => {
  const end = "2026-11-26T10:00:00Z";
  const at = (seconds: number) => Date.parse(end) + seconds * 1000;
  const called = new Set<string>();
  expect(runOut([end], at(-1), called)).toEqual([]);
  expect(runOut([end, "never"], at(1), called)).toEqual([end]);
  expect(runOut([end], at(2), called)).toEqual([]);
  expect(runOut([end], at(600), new Set())).toEqual([]);
});

test("a time of day is the last time it was that late; nonsense is none", () => {
  const now = new Date(2026, 10, 26, 9, 30);
  expect(earlierToday("9:05", now)).toBe(new Date(2026, 10, 26, 9, 5).toISOString());
  expect(earlierToday(" 14.05 ", now)).toBe(new Date(2026, 10, 25, 14, 5).toISOString());
  for (const text of ["", "25:00", "9:60", "nine", "9"]) expect(earlierToday(text, now)).toBeNull();
});

test("in a list that is searched, the word itself comes before those that hold it", () => {
  const sorted = ["fork cap", "caps", "cap"]
    .map((label) => ({ label }))
    .sort((one, other) => byBeginning(one, other, { searchValue: "Cap" }));
  expect(sorted.map(({ label }) => label)).toEqual(["cap", "caps", "fork cap"]);
});

test("what is half typed is kept under its own key until it is dropped, and rubbish is nothing", () => {
  const kept = new Map<string, string>();
  const shelf = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
    get length() {
      return kept.size;
    },
    key: (n: number) => [...kept.keys()][n] ?? null,
  };
  keepDraft(shelf, "visit.step", ["a", "b"]);
  expect(keptDraft<string[]>(shelf, "visit.step", [])).toEqual(["a", "b"]);
  expect([hasDraft(shelf, "visit.step"), hasDraft(shelf, "visit.ste")]).toEqual([true, false]);
  keepDraft(shelf, "visit.torque.wrench", "2");
  expect(hasDraft(shelf, "visit.torque")).toBe(true);
  expect(keptDraft(shelf, "visit.other", "nothing")).toBe("nothing");
  dropDraft(shelf, "visit.step");
  expect(keptDraft<string[]>(shelf, "visit.step", [])).toEqual([]);
  kept.set("oilward.draft.broken", "{");
  expect(keptDraft(shelf, "broken", 7)).toBe(7);
});

/** A step as the server says it, in short. */
function made(id: string, status: string, kind = "check", ends_at: string | null = null) {
  const round = Number(id.split(".")[1] ?? 0);
  return { id, status, kind, ends_at, round, reservoir: id.split("/")[0] ?? "" };
}

test("the step in hand is the one looked at, else the next; what runs is told from what is open", () => {
  const steps = [
    made("engine/drain", "running", "drain", "2026-11-26T10:00:00Z"),
    made("engine/settle.1", "running", "wait", "2026-11-26T10:05:00Z"),
    made("gearbox/filler", "ready", "gate"),
    made("gearbox/level.1", "blocked", "level"),
    made("engine/level.2", "blocked", "level"),
    made("engine/level.1", "blocked", "level"),
    made("engine/measure", "blocked", "amount"),
    made("cold", "done"),
    made("warm", "skipped", "timer"),
  ];
  const sheet = { steps, focus: "gearbox/filler", tasks: [{ key: "engine" }] } as unknown as Sheet;
  expect(inHand(sheet, null)?.id).toBe("gearbox/filler");
  expect(inHand(sheet, "cold")?.id).toBe("cold");
  expect(inHand(sheet, "gone")?.id).toBe("gearbox/filler");
  expect(sheet.steps.filter(isOpen).map((step) => step.id)).toEqual([
    "engine/drain",
    "gearbox/filler",
  ]);
  expect(sheet.steps.filter(isClosed).map((step) => step.id)).toEqual(["cold", "warm"]);
  expect(running(sheet).map((step) => step.id)).toEqual(["engine/drain", "engine/settle.1"]);
  const [drain, settle, filler] = sheet.steps;
  expect(settle && ledTo(sheet, settle).id).toBe("engine/level.1");
  expect(drain && ledTo(sheet, drain).id).toBe("engine/drain");
  expect(drain && taskOf(sheet, drain)?.key).toBe("engine");
  expect(filler && taskOf(sheet, filler)).toBeUndefined();
});

test("what others write down takes no step out of the hand that is typed in or can go on", () => {
  const steps = [made("drain", "running", "drain"), made("cold", "done"), made("filler", "ready")];
  const sheet = { steps, focus: "filler", tasks: [] } as unknown as Sheet;
  const typed = (step: string) => step === "cold";
  const shown = (looking: string | null, last: string) => inHand(sheet, looking, last, typed)?.id;
  expect([shown(null, "drain"), shown("cold", "drain")]).toEqual(["drain", "cold"]);
  expect([shown(null, "cold"), shown(null, "gone")]).toEqual(["cold", "filler"]);
});
