import { Popover } from "antd";
import type { Shape } from "../api/client";

/** The why of a number, in one tap. */
export function Why({ reasons }: { reasons: Shape["Why"][] }) {
  if (reasons.length === 0) return null;
  const content = (
    <ul className="why-list">
      {reasons.map((reason, index) => (
        <li key={index}>
          {reason.text}
          <span className="soft">
            {reason.rule} · {reason.source}
          </span>
        </li>
      ))}
    </ul>
  );
  return (
    <Popover content={content} trigger="click" placement="bottom">
      <button className="why">why?</button>
    </Popover>
  );
}
