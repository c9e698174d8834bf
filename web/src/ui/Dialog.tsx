import { Modal, type ModalProps } from "antd";
import { useEffect, useRef } from "react";

/** Stands at once, without unfolding, and takes what is typed from the first key on. */
export function Dialog({ children, ...props }: ModalProps) {
  return (
    <Modal {...props} destroyOnHidden>
      <FirstField>{children}</FirstField>
    </Modal>
  );
}

const FIELDS = "input, select, textarea";

function FirstField({ children }: { children: ModalProps["children"] }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // the dialog looks for its own focus in this very turn; the field comes after it
    const turn = setTimeout(() => {
      if (box.current?.contains(document.activeElement)) return;
      box.current?.querySelector<HTMLElement>(FIELDS)?.focus();
    });
    return () => clearTimeout(turn);
  }, []);
  return <div ref={box}>{children}</div>;
}
