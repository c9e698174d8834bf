import { useEffect } from "react";
import { api, type Shape } from "../../api/client";
import { useSignOut } from "../../api/hooks";

const OFTEN = 20_000;

/** On a bench's tablet: tells that hands are here, and hands over when nobody has touched it for a while.
 * What was on its way stays for its writer. */
export function useHands(session: Shape["Session"] | undefined) {
  const minutes = session?.signed_in && session.tablet ? session.idle_minutes : 0;
  const { mutate: signOut } = useSignOut();
  useEffect(() => {
    if (!minutes) return;
    let told = Date.now();
    let idle = setTimeout(signOut, minutes * 60_000);
    const touched = () => {
      clearTimeout(idle);
      idle = setTimeout(signOut, minutes * 60_000);
      if (Date.now() - told < OFTEN) return;
      told = Date.now();
      void api.PUT("/api/session/hands/");
    };
    window.addEventListener("pointerdown", touched, { passive: true });
    window.addEventListener("keydown", touched, { passive: true });
    return () => {
      clearTimeout(idle);
      window.removeEventListener("pointerdown", touched);
      window.removeEventListener("keydown", touched);
    };
  }, [minutes, signOut]);
}
