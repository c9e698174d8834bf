import type { Shape } from "../api/client";

export type Wish = Shape["WishChoiceRequest"];

/** A job in its place: minutes from the start. */
type Placed = Pick<Shape["JobShape"], "id" | "group" | "start" | "end">;

/** What dragging a job to another minute asks for: it before the next one, or after the last. */
export function wishFor(jobs: readonly Placed[], dragged: Placed, minute: number): Wish | null {
  // what belongs to the same reservoir keeps its order: dragging past it means past what is next to it
  const own = (job: Placed) =>
    job.id === dragged.id || (job.group !== "" && job.group === dragged.group);
  const others = jobs.filter((job) => !own(job) && job.end > job.start);
  if (minute < dragged.start) {
    const next = others
      .filter((job) => job.start >= minute && job.start < dragged.start)
      .sort((a, b) => a.start - b.start)[0];
    return next ? { first: dragged.id, then: next.id } : null;
  }
  const last = others
    .filter((job) => job.end <= minute + dragged.end - dragged.start && job.start > dragged.start)
    .sort((a, b) => b.end - a.end)[0];
  return last ? { first: last.id, then: dragged.id } : null;
}
