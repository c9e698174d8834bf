/** A second tap of the same finger must not do the next step. A control that appears, moves, is called
 * otherwise or comes to light within reach of the last tap takes no pointer press for a moment and is seen
 * dimmed. Keys are never delayed; only what a held key repeats does nothing. */

const REACH = 48; // px around the tap
const REST = 700; // ms
const UNSTILL = 500; // ms after a change
const LOOKS = 80; // ms between two looks meanwhile: a press looks by itself
const FORGOTTEN = 10_000; // ms: by then a press is meant
const CONTROLS =
  "button, a[href], label, summary, " +
  '[role="button"], [role="checkbox"], [role="radio"], [role="slider"], [role="option"], [role="tab"]';
const TYPED = "input:not([type=checkbox], [type=radio]), textarea";
const RESTING = "data-resting";

interface Point {
  x: number;
  y: number;
}

interface Seen {
  name: string;
  /** Its middle, on the page and on the screen: what is scrolled moves on the screen alone. */
  page: Point;
  screen: Point;
  /** Whether a press reaches it: no dialog stands before it. */
  open: boolean;
}

/** How far a point is from a box; 0 inside. */
function distance(x: number, y: number, box: DOMRect): number {
  const across = Math.max(box.left - x, 0, x - box.right);
  const along = Math.max(box.top - y, 0, y - box.bottom);
  return Math.hypot(across, along);
}

/** What it is called; a count that runs is no other control. */
function nameOf(control: Element): string {
  const said = `${control.getAttribute("aria-label") ?? ""}|${control.textContent ?? ""}`;
  return said.replace(/\d+/g, "#");
}

/** The dialog in front, if there is one. */
function inFront(page: Document): Element | undefined {
  const dialogs = [...page.querySelectorAll('[role="dialog"]')];
  return dialogs.filter((one) => one.getBoundingClientRect().width > 0).at(-1);
}

function seenNow(control: Element, box: DOMRect, front: Element | undefined): Seen {
  const screen = { x: box.left + box.width / 2, y: box.top + box.height / 2 };
  const page = { x: screen.x + window.scrollX, y: screen.y + window.scrollY };
  return { name: nameOf(control), page, screen, open: !front || front.contains(control) };
}

function apart(one: Point, other: Point): boolean {
  return Math.hypot(one.x - other.x, one.y - other.y) > 8;
}

function isAnother(before: Seen | undefined, now: Seen, scrolled: boolean): boolean {
  if (!before || before.name !== now.name || (now.open && !before.open)) return true;
  return apart(before.page, now.page) || (scrolled && apart(before.screen, now.screen));
}

/** What rests, and until when. */
class Resting {
  private readonly timers = new Map<Element, number>();

  add(control: Element): void {
    window.clearTimeout(this.timers.get(control));
    control.setAttribute(RESTING, "");
    const timer = window.setTimeout(() => this.release(control), REST);
    this.timers.set(control, timer);
  }

  holds(target: EventTarget | null): boolean {
    return target instanceof Element && target.closest(`[${RESTING}]`) !== null;
  }

  clear(): void {
    for (const control of [...this.timers.keys()]) this.release(control);
  }

  private release(control: Element): void {
    window.clearTimeout(this.timers.get(control));
    this.timers.delete(control);
    control.removeAttribute(RESTING);
  }
}

function refuse(event: Event): void {
  event.preventDefault();
  event.stopImmediatePropagation();
}

/** Every control of a page within reach of the last tap, as it was seen last. */
class Guard {
  readonly resting = new Resting();
  private tap: { x: number; y: number; at: number } | null = null;
  private known = new Map<Element, Seen>();
  private swallow = false;
  /** What a finger is on; that it moves from under it does not take the press back. */
  private down: { control: Element; name: string } | null = null;
  private until = 0;
  private watching = 0;

  constructor(private readonly page: Document) {}

  /** Lets rest what was not there before, and looks on until it lies still. */
  readonly changed = (): void => {
    if (!this.watching) this.look(true);
    this.until = performance.now() + UNSTILL;
    this.watching ||= window.setTimeout(this.again, LOOKS);
  };

  /** What grows or slides moves others without any change to the page. */
  private readonly again = (): void => {
    this.look(true);
    const goesOn = performance.now() < this.until;
    this.watching = goesOn ? window.setTimeout(this.again, LOOKS) : 0;
  };

  stop(): void {
    window.clearTimeout(this.watching);
    this.resting.clear();
  }

  /** A page that scrolls by itself right after a tap puts other controls under the finger. */
  readonly scrolled = (): void => {
    if (this.tap && performance.now() - this.tap.at < REST) this.look(true, true);
  };

  readonly pressed = (event: PointerEvent): void => {
    this.look(true);
    this.swallow = this.resting.holds(event.target);
    if (this.swallow) return refuse(event);
    this.tap = { x: event.clientX, y: event.clientY, at: performance.now() };
    const control = event.target instanceof Element ? event.target.closest(CONTROLS) : null;
    this.down = control && { control, name: nameOf(control) };
    this.look(false);
  };

  readonly lifted = (): void => {
    // the click comes first
    window.setTimeout(() => {
      this.down = null;
    });
  };

  /** The finger pushes the page along: that was no tap. */
  readonly pushed = (): void => {
    this.tap = null;
  };

  readonly clicked = (event: MouseEvent): void => {
    // a key's click has no pointer behind it
    if (event.detail === 0) return;
    this.look(true);
    if (this.swallow || this.resting.holds(event.target)) refuse(event);
  };

  readonly held = (event: KeyboardEvent): void => {
    if (!event.repeat || !["Enter", " "].includes(event.key)) return;
    const { target } = event;
    if (!(target instanceof Element) || target.matches(TYPED)) return;
    if (target.closest(CONTROLS)) refuse(event);
  };

  private look(guarding: boolean, scrolled = false): void {
    const { tap } = this;
    if (!tap || performance.now() - tap.at > FORGOTTEN) return;
    const now = new Map<Element, Seen>();
    const front = inFront(this.page);
    for (const control of this.page.querySelectorAll(CONTROLS)) {
      const box = control.getBoundingClientRect();
      if (box.width === 0) continue;
      const seen = seenNow(control, box, front);
      const near = distance(tap.x, tap.y, box) <= REACH;
      const held = this.down?.control === control && this.down.name === seen.name;
      // all of them are known: what is scrolled to the place of an old tap was there before
      if (guarding && near && !held && isAnother(this.known.get(control), seen, scrolled)) {
        this.resting.add(control);
      }
      now.set(control, seen);
    }
    this.known = now;
  }
}

const CHANGES = {
  subtree: true,
  childList: true,
  characterData: true,
  attributeFilter: ["class", "style", "hidden", "aria-label"],
};

/** Guards a page until it is told to stop. */
export function guardTaps(page: Document): () => void {
  const guard = new Guard(page);
  const ended = new AbortController();
  const watch = new MutationObserver(guard.changed);
  watch.observe(page.body, CHANGES);
  const first = { capture: true, signal: ended.signal };
  page.addEventListener("scroll", guard.scrolled, { ...first, passive: true });
  page.addEventListener("pointerdown", guard.pressed, first);
  page.addEventListener("pointerup", guard.lifted, first);
  page.addEventListener("pointercancel", guard.pushed, first);
  page.addEventListener("click", guard.clicked, first);
  page.addEventListener("keydown", guard.held, first);
  return () => {
    watch.disconnect();
    ended.abort();
    guard.stop();
  };
}
