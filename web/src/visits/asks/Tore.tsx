import { Button } from "antd";
import asksCss from "./asks.module.css";

/** Tight, loose, tight: the ring is torn, and its plug comes out again. */
export function Tore({ busy, tore }: { busy: boolean; tore: () => void }) {
  return (
    <Button type="text" className={asksCss.skip} disabled={busy} onClick={tore}>
      Tight, loose, tight: it tore
    </Button>
  );
}
