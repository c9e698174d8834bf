import type { ReactNode } from "react";
import { usePhone } from "./useMedia";
import textCss from "./text.module.css";

/** A drawing with words in it: on a phone it stays readable and is pushed to the side. */
export function WideDrawing({ children }: { children: ReactNode }) {
  const phone = usePhone();
  return (
    <div className={textCss.wideDrawing} tabIndex={phone ? 0 : undefined}>
      {children}
    </div>
  );
}
