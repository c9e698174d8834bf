import { Popover } from "antd";
import type { Shape } from "../api/client";
import textCss from "./text.module.css";
import whyCss from "./why.module.css";

/** The why of a number, in one tap. */
export function Why({ reasons }: { reasons: Shape["Why"][] }) {
  if (reasons.length === 0) return null;
  const content = (
    <ul className={whyCss.whyList}>
      {reasons.map((reason, index) => (
        <li key={index}>
          {reason.text}
          <span className={textCss.soft}>
            {reason.rule} · {reason.source}
          </span>
        </li>
      ))}
    </ul>
  );
  return (
    <Popover content={content} trigger="click" placement="bottom">
      <button className={whyCss.why}>why?</button>
    </Popover>
  );
}
