import type { Problem, Shape } from "../api/client";
import type { NewEntry } from "./entry";

export type { NewEntry } from "./entry";
export type Sheet = Shape["RunSheet"];

/** An entry on this device: for which visit, whose, and what the server said if it would not have it.
 * `who`: that person's name, for others to read. */
export interface Kept {
  visit: string;
  by: string;
  who?: string;
  entry: NewEntry;
  problem: Problem | null;
}

/** What came of sending an entry: taken; never, as it stands; our fault, perhaps better next time;
 * nobody signed in; or no answer, with why and how many seconds to wait if the server said so. */
export type Outcome =
  | { kind: "taken"; sheet: Sheet; mark: string }
  | { kind: "refused"; problem: Problem }
  | { kind: "fault"; problem: Problem }
  | { kind: "signed out" }
  | { kind: "unreachable"; seconds: number | null; why?: string };

/** What is on this device, as screens show it. */
export interface State {
  /** On their way, in the order they were made. */
  waiting: Kept[];
  /** What the server would not have: questions that wait for an answer, and what has to be put right. */
  held: Kept[];
  unreachable: boolean;
  /** What the server said is the matter, if it said anything. */
  why: string;
  /** How many are kept by this page alone, since the device has no room: gone when it is closed. */
  homeless: number;
}

/** What the outbox stands on; all of it can be a test's own. */
export interface Ways {
  shelf: Pick<Storage, "length" | "key" | "getItem" | "setItem" | "removeItem">;
  post: (visit: string, entry: NewEntry) => Promise<Outcome>;
  /** Done by one tab at a time. */
  lock: (work: () => Promise<void>) => Promise<void>;
  now: () => number;
  /** Does it after so many milliseconds, unless called off. */
  after: (milliseconds: number, work: () => void) => () => void;
}

type Hearer = (kept: Kept, outcome: Outcome) => void | Promise<void>;

const PLACE = "oilward.entry.";
const LAST_RELEASE = "oilward.outbox.";
const RETRY = 1500;
const FAULTS = 3;
const LATER = new Set([408, 425, 429, 502, 503, 504]);

function problemOf(status: number, body: unknown): Problem {
  const said = body as Partial<Problem> | undefined;
  const plain = { type: "about:blank", title: "", code: "", question: false, errors: [] };
  const detail = said?.detail ?? "The server did not answer as it should.";
  return { ...plain, ...(typeof said === "object" ? said : {}), status, detail };
}

/** What an answer of the server means for the entry that was sent. */
export function outcomeOf(
  status: number,
  body: unknown,
  header: (name: string) => string | null,
): Outcome {
  if (status < 300) return { kind: "taken", sheet: body as Sheet, mark: header("ETag") ?? "" };
  if (status === 401) return { kind: "signed out" };
  if (LATER.has(status)) {
    const why = (body as Partial<Problem> | undefined)?.detail ?? "";
    return { kind: "unreachable", seconds: Number(header("Retry-After")) || null, why };
  }
  const problem = problemOf(status, body);
  return { kind: status >= 500 ? "fault" : "refused", problem };
}

/**
 * Entries kept on this device until the server has them. Each lies under a key of its own, so two tabs
 * or quick hands never write over each other's; each is sent under the id it was made with, so sending
 * it twice does nothing twice. One the server will not have is set aside and blocks nothing behind it.
 */
export class Outbox {
  private person = "";
  private name = "";
  /** What the device had no room for, under the key it would have there. */
  private readonly spare = new Map<string, string>();
  private sending = false;
  private pause = 0;
  private count = 0;
  private callOff = () => {};
  private readonly faults = new Map<string, number>();
  private readonly listeners = new Set<() => void>();
  private readonly hearers = new Set<Hearer>();
  private unreachable = false;
  private why = "";
  private seen: State;

  constructor(private readonly ways: Ways) {
    this.seen = this.look();
  }

  readonly state = (): State => this.seen;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Calls `hearer` with what came of each entry sent from here. */
  hear(hearer: Hearer): () => void {
    this.hearers.add(hearer);
    return () => this.hearers.delete(hearer);
  }

  /** Whose entries are sent from now on; with "" nobody's are. */
  signedIn(person: string, name = ""): void {
    this.person = person;
    this.name = name;
    if (person) this.carryOver();
    void this.flush();
  }

  /** Keeps an entry and sends it. What stood refused at the same step is put right by it. */
  add(visit: string, entry: NewEntry): void {
    for (const [key, { visit: whose, entry: old }] of this.places("held")) {
      if (whose === visit && old.step === entry.step) this.take(key);
    }
    this.put({ visit, by: this.person, who: this.name, entry, problem: null });
    this.changed();
    void this.flush();
  }

  /** Takes one away that the server would not have. */
  drop(id: string): void {
    this.remove(id);
    this.changed();
  }

  /** Looks again at what is kept: another tab may have added or sent something. */
  readonly changed = (): void => {
    this.seen = this.look();
    for (const listener of this.listeners) listener();
  };

  /** Sends what is on its way, one after the other; later again if there is no answer. */
  async flush(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    this.callOff();
    this.pause = 0;
    try {
      do await this.ways.lock(() => this.sendAll());
      while (this.pause === 0 && this.next());
    } finally {
      this.sending = false;
    }
    if (this.next()) this.callOff = this.ways.after(this.pause, () => void this.flush());
  }

  /** Sends what is on its way, and waits for it, but not for ever; whether all of it is sent. */
  async sent(milliseconds: number): Promise<boolean> {
    let enough = false;
    this.ways.after(milliseconds, () => (enough = true));
    void this.flush();
    while (this.next() && !enough) {
      await new Promise<void>((resolve) => this.ways.after(100, resolve));
    }
    return !this.next();
  }

  private async sendAll(): Promise<void> {
    for (let next = this.next(); next; next = this.next()) {
      const outcome = this.judged(next, await this.ways.post(next.visit, next.entry));
      // whoever shows the visit has the answer before the entry is gone from here
      for (const hearer of this.hearers) await hearer(next, outcome);
      this.settle(next, outcome);
      this.changed();
      if (this.pause > 0) return;
    }
  }

  /** A fault that comes again and again is no accident: the entry is set aside. */
  private judged({ entry }: Kept, outcome: Outcome): Outcome {
    if (outcome.kind !== "fault") return outcome;
    const times = (this.faults.get(entry.id) ?? 0) + 1;
    this.faults.set(entry.id, times);
    return times < FAULTS ? outcome : { kind: "refused", problem: outcome.problem };
  }

  private settle(kept: Kept, outcome: Outcome): void {
    this.unreachable = outcome.kind === "unreachable" || outcome.kind === "fault";
    this.why = outcome.kind === "unreachable" ? (outcome.why ?? "") : "";
    if (outcome.kind === "taken") this.remove(kept.entry.id);
    else if (outcome.kind === "refused") this.hold(kept, outcome.problem);
    else if (outcome.kind === "unreachable") this.pause = 1000 * (outcome.seconds ?? 0) || RETRY;
    else this.pause = RETRY;
  }

  private hold({ entry }: Kept, problem: Problem): void {
    for (const [key, kept] of this.places("waiting")) {
      if (kept.entry.id === entry.id) this.lay(key, { ...kept, problem });
    }
  }

  private next(): Kept | undefined {
    const mine = this.places("waiting").find(([, { by }]) => by === this.person);
    return this.person ? mine?.[1] : undefined;
  }

  private put(kept: Kept): void {
    this.count += 1;
    const place = `${this.ways.now()}`.padStart(15, "0") + `${this.count}`.padStart(6, "0");
    this.lay(`${PLACE}${place}.${kept.entry.id}`, kept);
  }

  /** Lays it on the device; where there is no room, this page keeps it. */
  private lay(key: string, kept: Kept): void {
    const text = JSON.stringify(kept);
    try {
      this.ways.shelf.setItem(key, text);
      this.spare.delete(key);
    } catch {
      this.spare.set(key, text);
    }
  }

  private take(key: string): void {
    this.spare.delete(key);
    this.ways.shelf.removeItem(key);
  }

  private remove(id: string): void {
    for (const [key, kept] of this.places()) {
      if (kept.entry.id === id) this.take(key);
    }
  }

  private keys(beginning: string): string[] {
    const { shelf } = this.ways;
    const laid = Array.from({ length: shelf.length }, (_, n) => shelf.key(n) ?? "");
    const all = new Set([...laid, ...this.spare.keys()]);
    return [...all].filter((key) => key.startsWith(beginning)).sort();
  }

  private places(wanted?: "waiting" | "held"): [string, Kept][] {
    const found: [string, Kept][] = [];
    for (const key of this.keys(PLACE)) {
      const kept = read<Kept>(this.spare.get(key) ?? this.ways.shelf.getItem(key));
      const how = kept?.problem ? "held" : "waiting";
      if (kept?.entry && (wanted ?? how) === how) found.push([key, kept]);
    }
    return found;
  }

  private look(): State {
    const some = (wanted: "waiting" | "held") => this.places(wanted).map(([, kept]) => kept);
    const waiting = some("waiting");
    const unreachable = this.unreachable && waiting.length > 0;
    const { why } = this;
    return { waiting, held: some("held"), unreachable, why, homeless: this.spare.size };
  }

  /** What the last release kept: a visit's entries in one list, of whoever signs in now. */
  private carryOver(): void {
    for (const key of this.keys(LAST_RELEASE)) {
      const entries = read<NewEntry[]>(this.ways.shelf.getItem(key)) ?? [];
      const visit = key.slice(LAST_RELEASE.length);
      for (const entry of entries) this.put({ visit, by: this.person, entry, problem: null });
      this.ways.shelf.removeItem(key);
    }
    this.changed();
  }
}

function read<T>(text: string | null): T | null {
  try {
    return text === null ? null : (JSON.parse(text) as T);
  } catch {
    return null;
  }
}
