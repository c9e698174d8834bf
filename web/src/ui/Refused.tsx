/** The sentence of a refusal, where there is one. */
export function Refused({ said }: { said: string | undefined }) {
  if (!said) return null;
  return (
    <p className="refusal" role="alert">
      {said}
    </p>
  );
}
