import { Button, Input } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { keep } from "../api/keep";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/hooks";
import { dayWords } from "../ui/days";
import { Dialog } from "../ui/Dialog";
import { Refused } from "../ui/Refused";
import asksCss from "./asks/asks.module.css";
import benchCss from "./bench.module.css";
import textCss from "../ui/text.module.css";

type Step = Shape["StepShape"];

/** What somebody wrote down for whoever does this step next. */
export function TipNote({ tip }: { tip: Shape["TipShape"] }) {
  return (
    <p className={benchCss.place}>
      <b>Tip</b> {tip.text}
      {tip.tools && ` Tools: ${tip.tools}.`}{" "}
      <span className={textCss.soft}>
        {tip.by}, {dayWords(tip.at)}
      </span>
    </p>
  );
}

/** A tip for the next one on such a bike, with the tools it takes; these go into the kit. */
export function WriteTip({ visit, step }: { visit: string; step: Step }) {
  const client = useQueryClient();
  const [asking, setAsking] = useState("");
  const [text, setText] = useState("");
  const [tools, setTools] = useState("");
  const write = useMutation({
    mutationFn: () =>
      taken(
        api.POST("/api/visits/{visit_id}/tips/", {
          params: { path: { visit_id: visit } },
          body: { id: asking, step: step.id, text, tools },
        }),
      ),
    onSuccess: async (sheet) => {
      setAsking("");
      await keep(client, keys.visit(visit), sheet);
      void client.invalidateQueries({ queryKey: keys.plans });
    },
  });
  const ask = () => {
    setText(step.tip?.text ?? "");
    setTools(step.tip?.tools ?? "");
    setAsking(crypto.randomUUID());
  };
  return (
    <>
      <Button type="text" className={asksCss.skip} onClick={ask}>
        {step.tip ? "Change the tip" : "A tip for the next one"}
      </Button>
      <Dialog
        open={asking !== ""}
        title={`A tip for the next one at ${step.tip_at}`}
        okText="Keep it"
        onOk={() => write.mutate()}
        confirmLoading={write.isPending}
        onCancel={() => setAsking("")}
      >
        <label htmlFor="tip-text">What comes off first, what fits, what clashes?</label>
        <Input.TextArea
          id="tip-text"
          autoSize={{ minRows: 3 }}
          count={{ show: true, max: 400 }}
          placeholder="Panel first; foil over the pipe; 15 min"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <label htmlFor="tip-tools">Tools for it, parted by commas; they go into the kit</label>
        <Input
          id="tip-tools"
          maxLength={120}
          placeholder="8 mm swivel socket, foil"
          value={tools}
          onChange={(event) => setTools(event.target.value)}
        />
        <Refused said={write.error?.message} />
      </Dialog>
    </>
  );
}
