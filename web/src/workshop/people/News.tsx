import { Button } from "antd";
import { useQueryClient } from "@tanstack/react-query";
import type { Shape } from "../../api/client";
import { keep } from "../../api/keep";
import { keys } from "../../api/keys";
import pageCss from "../../ui/page.module.css";
import textCss from "../../ui/text.module.css";

/** What happened to one's password and PIN since one was here last; said until it is read. */
export function News({ session }: { session: Shape["Session"] }) {
  const client = useQueryClient();
  const news = session.news ?? [];
  if (news.length === 0) return null;
  return (
    <section className={pageCss.notice} role="status" aria-label="Since you were here">
      <p>
        <b>Since you were here:</b> if that was not you, tell a lead, and change your password.
      </p>
      {news.map((one) => (
        <p key={one} className={textCss.tabular}>
          {one}
        </p>
      ))}
      <Button onClick={() => void keep(client, keys.session, { ...session, news: [] })}>
        I know
      </Button>
    </section>
  );
}
