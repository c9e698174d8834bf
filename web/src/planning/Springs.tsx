import { Button } from "antd";
import { useState } from "react";
import type { Shape } from "../api/client";
import { Gaps } from "./Gaps";
import { Sag } from "./Sag";
import sagCss from "./sag.module.css";
import controlsCss from "../ui/controls.module.css";

/** What can be worked out about what a bike sinks on, as far as its sheet says enough. */
export function Springs({ bike, reservoir }: { bike: string; reservoir: Shape["ReservoirPage"] }) {
  const [open, setOpen] = useState<"sag" | "gaps" | null>(null);
  const more = { bike, reservoir, close: () => setOpen(null) };
  return (
    <div className={sagCss.springs}>
      {reservoir.sags && (
        <Button className={controlsCss.wideChoice} onClick={() => setOpen("sag")}>
          How far it sinks
        </Button>
      )}
      {reservoir.gaps && (
        <Button className={controlsCss.wideChoice} onClick={() => setOpen("gaps")}>
          Another air gap
        </Button>
      )}
      {open === "sag" && <Sag {...more} />}
      {open === "gaps" && <Gaps {...more} />}
    </div>
  );
}
