import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Button, Input, Segmented } from "antd";
import { useState } from "react";
import { api, fieldSentence, problemOf, taken, type Shape } from "../api/client";
import { keys } from "../api/hooks";
import { Dialog } from "../ui/Dialog";
import { Refused } from "../ui/Refused";

type Plug = Shape["Plug"];

function useAnswer(bike: string, plug: Plug, done: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Shape["NewAnswerRequest"]) =>
      taken(
        api.POST("/api/findings/{finding_id}/answers/", {
          params: { path: { finding_id: plug.id } },
          body,
        }),
      ),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: keys.bike(bike) });
      void client.invalidateQueries({ queryKey: keys.wards });
      done();
    },
  });
}

/** What came of looking into a finding that asks until it is answered. */
export function AnswerFinding({ bike, plug }: { bike: string; plug: Plug }) {
  const [asking, setAsking] = useState("");
  const [outcome, setOutcome] = useState(plug.outcomes[0]);
  const [words, setWords] = useState("");
  const answer = useAnswer(bike, plug, () => setAsking(""));
  const problem = problemOf(answer.error);
  const said = problem && (fieldSentence(problem, "words") || problem.detail);
  if (!plug.asks || !outcome) return null;
  return (
    <>
      <Button onClick={() => setAsking(crypto.randomUUID())}>Looked into it</Button>
      <Dialog
        open={asking !== ""}
        title="What came of it?"
        okText="Write it down"
        okButtonProps={{ disabled: !words.trim() }}
        confirmLoading={answer.isPending}
        onOk={() => answer.mutate({ id: asking, outcome, words })}
        onCancel={() => setAsking("")}
      >
        <Segmented
          aria-label="What came of it"
          vertical
          block
          size="large"
          value={outcome}
          options={plug.outcomes}
          onChange={setOutcome}
        />
        <label htmlFor="answer-words">In your words</label>
        <Input
          id="answer-words"
          maxLength={500}
          placeholder="opened: bearing pitted, both renewed"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <Refused said={said ?? ""} />
      </Dialog>
    </>
  );
}
