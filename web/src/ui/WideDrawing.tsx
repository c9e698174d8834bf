import type { ReactNode } from "react";
import { usePhone } from "./useMedia";

/** A drawing with words in it: on a phone it stays readable and is pushed to the side. */
export function WideDrawing({ children }: { children: ReactNode }) {
  const phone = usePhone();
  return (
    <div className="wide-drawing" tabIndex={phone ? 0 : undefined}>
      {children}
    </div>
  );
}
