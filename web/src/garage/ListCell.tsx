import { useRef, type KeyboardEvent } from "react";
import { Choice } from "../ui/Choice";
import { focusNext } from "./cells";

interface Props {
  /** Its place among what the keyboard walks through; also its id. */
  cell: string;
  options: string[];
  value: string;
  choose: (chosen: string) => void;
  /** The keyboard does not go on by itself once something is chosen. */
  stays?: boolean;
  disabled?: boolean;
  bad?: boolean;
  className?: string;
}

/** The list thinks the key is still down when the keyboard has gone on before it came up. */
function letGo(field: HTMLElement) {
  field.dispatchEvent(new KeyboardEvent("keyup", { key: "Enter", bubbles: true }));
}

/** A list among typed values: typing finds, Enter takes and goes on; on a closed list Enter goes on. */
export function ListCell({ cell, options, value, choose, stays, ...look }: Props) {
  const open = useRef(false);
  const pass = (event: KeyboardEvent<HTMLElement>) => {
    if (event.key !== "Enter" || open.current) return;
    event.stopPropagation();
    event.preventDefault();
    focusNext(event.currentTarget);
  };
  const goOn = () => {
    const field = document.getElementById(cell);
    if (!field) return;
    letGo(field);
    if (!stays) focusNext(field);
  };
  return (
    <div data-cell={cell} onKeyDownCapture={pass}>
      <Choice
        id={cell}
        className={look.className}
        search
        allowClear={!stays}
        placeholder={stays ? "choose" : "–"}
        value={value}
        disabled={look.disabled}
        status={look.bad ? "error" : undefined}
        options={options}
        onOpenChange={(now) => {
          open.current = now;
        }}
        onChange={choose}
        onSelect={goOn}
      />
    </div>
  );
}
