/** What a field shows once `sent` is written: `empty`, or what a hand has typed on meanwhile. */
export function typedOn<Typed>(sent: Typed, empty: Typed) {
  return (now: Typed): Typed => (now === sent ? empty : now);
}
