import { Tabs } from "antd";
import type { ReactNode } from "react";

/** A row of doors beside each other; each may be named by any words. */
export function Doors({
  doors,
  open,
  go,
  className,
}: {
  doors: { key: string; label: ReactNode }[];
  open: string;
  go: (key: string) => void;
  className: string | undefined;
}) {
  // the keys become ids on the page, which take no spaces
  const at = doors.findIndex((door) => door.key === open);
  return (
    <Tabs
      className={className}
      activeKey={`door${at}`}
      items={doors.map(({ label }, index) => ({ key: `door${index}`, label }))}
      onChange={(key) => {
        const door = doors[Number(key.slice(4))];
        if (door) go(door.key);
      }}
    />
  );
}
