type Listed = { label?: unknown };

/** What begins with the words typed comes first, the whole word before all. */
export function byBeginning(a: Listed, b: Listed, { searchValue }: { searchValue: string }) {
  const typed = searchValue.toLowerCase();
  const rank = ({ label }: Listed) => {
    const words = String(label).toLowerCase();
    return words === typed ? 0 : words.startsWith(typed) ? 1 : 2;
  };
  return rank(a) - rank(b);
}
