import { Button, Input } from "antd";
import { useState } from "react";
import type { Shape } from "../../api/client";
import { Dialog } from "../../ui/Dialog";

/** A link to hand over: it is shown here, and opens once. */
export function WelcomeLink({ link, close }: { link: Shape["WelcomeLink"]; close: () => void }) {
  const [copied, setCopied] = useState(false);
  const whole = `${window.location.origin}${link.path}`;
  const copy = () => void navigator.clipboard.writeText(whole).then(() => setCopied(true));
  return (
    <Dialog
      open
      title={`A link for ${link.name}`}
      onCancel={close}
      footer={
        <Button type="primary" size="large" onClick={close}>
          Done
        </Button>
      }
    >
      <p>
        Hand it to {link.name} and nobody else. It opens once, within {link.hours} hours, to choose
        a password and a PIN. Links handed out before are good no more.
      </p>
      <Input.TextArea aria-label="The link" readOnly autoSize value={whole} />
      {window.isSecureContext && (
        <Button onClick={copy} style={{ marginTop: 10 }}>
          {copied ? "Copied" : "Copy"}
        </Button>
      )}
    </Dialog>
  );
}
