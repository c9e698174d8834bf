import textCss from "./text.module.css";
/** The sentence of a refusal, where there is one. */
export function Refused({ said }: { said: string | undefined }) {
  if (!said) return null;
  return (
    <p className={textCss.refusal} role="alert">
      {said}
    </p>
  );
}
