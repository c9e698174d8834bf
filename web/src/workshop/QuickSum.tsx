import { clsx } from "clsx";
import { Button, Input } from "antd";
import { useDeferredValue, useEffect, useRef, useState } from "react";
import { Refusal, type Problem } from "../api/client";
import { useQuickSum } from "../api/hooks";
import { Dialog } from "../ui/Dialog";
import controlsCss from "../ui/controls.module.css";
import quickSumCss from "./quick-sum.module.css";
import textCss from "../ui/text.module.css";
import whyCss from "../ui/why.module.css";

const EXAMPLES = ["2.7 l - 2.5 qt", "38 oz in qt", "mid 14-21 ft-lb in Nm", "3 x 946 ml"];

type Field = HTMLInputElement | HTMLTextAreaElement;

function isField(node: Element | null): node is Field {
  return node instanceof HTMLInputElement || node instanceof HTMLTextAreaElement;
}

/** Puts words into a field as if they had been typed there. */
function putInto(field: Field, words: string): void {
  const setter = Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), "value")?.set;
  setter?.call(field, words);
  field.dispatchEvent(new Event("input", { bubbles: true }));
  field.focus();
}

function useAnswer(text: string): { words: string; doubt: Problem | null } {
  const typed = useDeferredValue(text);
  const answer = useQuickSum(typed);
  if (!typed.trim()) return { words: "", doubt: null };
  if (answer.error instanceof Refusal) return { words: "", doubt: answer.error.problem };
  return { words: answer.data?.words ?? "", doubt: null };
}

function Sheet({ from, close }: { from: Field | null; close: () => void }) {
  const [text, setText] = useState("");
  const [copied, setCopied] = useState(false);
  const { words, doubt } = useAnswer(text);

  function insert() {
    if (!words || !from?.isConnected) return;
    close();
    // after the sheet has given the focus back
    setTimeout(() => putInto(from, words), 0);
  }

  async function copy() {
    await navigator.clipboard.writeText(words);
    setCopied(true);
  }

  return (
    <Dialog open title="Quick sum" footer={null} onCancel={close} width={620}>
      <Input
        className={clsx(controlsCss.amountInput, quickSumCss.quickInput)}
        aria-label="Sum"
        autoComplete="off"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setCopied(false);
        }}
        onPressEnter={() => (from ? insert() : void copy())}
      />
      <p className={quickSumCss.quickAnswer} role="status">
        {words ? `= ${words}` : doubt?.detail}
      </p>
      <div className={controlsCss.choices}>
        {from && (
          <Button type="primary" size="large" disabled={!words} onClick={insert}>
            Put it in the field
          </Button>
        )}
        <Button size="large" disabled={!words} onClick={() => void copy()}>
          {copied ? "Copied" : "Copy"}
        </Button>
      </div>
      <p className={clsx(textCss.soft, quickSumCss.quickExamples)}>
        {EXAMPLES.map((example) => (
          <button key={example} className={whyCss.why} onClick={() => setText(example)}>
            {example}
          </button>
        ))}
      </p>
    </Dialog>
  );
}

/** Bench arithmetic from anywhere: the button, or Ctrl and K. */
export function QuickSum() {
  const [open, setOpen] = useState(false);
  const [from, setFrom] = useState<Field | null>(null);
  const last = useRef<Element | null>(null);

  useEffect(() => {
    const show = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "k") return;
      event.preventDefault();
      const active = document.activeElement;
      setFrom(isField(active) && !active.readOnly ? active : null);
      setOpen(true);
    };
    const leave = (event: FocusEvent) => {
      last.current = event.target instanceof Element ? event.target : null;
    };
    window.addEventListener("keydown", show);
    window.addEventListener("focusout", leave);
    return () => {
      window.removeEventListener("keydown", show);
      window.removeEventListener("focusout", leave);
    };
  }, []);

  return (
    <>
      <Button
        ghost
        className={quickSumCss.barSum}
        onClick={() => {
          setFrom(isField(last.current) && last.current.isConnected ? last.current : null);
          setOpen(true);
        }}
      >
        Quick sum <kbd>Ctrl K</kbd>
      </Button>
      {open && <Sheet from={from} close={() => setOpen(false)} />}
    </>
  );
}
