import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Progress, Table, Upload, type TableColumnsType } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/keys";
import { dayWords } from "../ui/days";
import { Refused } from "../ui/Refused";
import listsCss from "../ui/lists.module.css";
import textCss from "../ui/text.module.css";
import wearCss from "./wear.module.css";

type Sample = Shape["SampleLine"];
type Coming = Shape["LabProgress"];

const LOOK_AGAIN = 500;

/** The simulated laboratory answers a label, and says that it is simulated. */
function AskSimulated({ sample }: { sample: Sample }) {
  const client = useQueryClient();
  const ask = useMutation({
    mutationFn: () =>
      taken(
        api.POST("/api/lab/samples/{sample_id}/simulated/", {
          params: { path: { sample_id: sample.id } },
        }),
      ),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: keys.samples });
      void client.invalidateQueries({ queryKey: keys.bikes });
    },
  });
  return (
    <>
      <Button loading={ask.isPending} onClick={() => ask.mutate()}>
        Ask the laboratory (simulated)
      </Button>
      <Refused said={ask.error?.message} />
    </>
  );
}

/** Where a sample's label is printed from. */
export function LabelLink({ sample }: { sample: Sample }) {
  return (
    <a
      className={wearCss.ledgerLink}
      href={`/api/lab/samples/${sample.id}/label/`}
      target="_blank"
      rel="noreferrer"
    >
      Label {sample.label}
    </a>
  );
}

const COLUMNS: TableColumnsType<Sample> = [
  { title: "Label", key: "label", render: (_, sample) => <LabelLink sample={sample} /> },
  {
    title: "Of",
    key: "what",
    render: (_, { bike_id, reservoir, what }) =>
      bike_id ? (
        <Link
          className={wearCss.ledgerLink}
          to={`/bikes/${bike_id}/wear/${encodeURIComponent(reservoir)}`}
        >
          {what}
        </Link>
      ) : (
        what
      ),
  },
  { title: "Taken", dataIndex: "taken_on", render: dayWords, className: textCss.tabular },
  { title: "By", dataIndex: "by", responsive: ["md"] },
  {
    title: "Report",
    key: "report",
    render: (_, sample) => (sample.answered ? "has come" : <AskSimulated sample={sample} />),
  },
];

function Faults({ coming }: { coming: Coming }) {
  if (coming.refused) return <Refused said={coming.refused} />;
  if (coming.faults.length === 0) return null;
  return (
    <ul className={wearCss.labFaults} aria-label="Lines that were not taken">
      {coming.faults.map((fault) => (
        <li key={`${fault.line} ${fault.field}`}>
          <b>
            Line {fault.line}
            {fault.field && `, ${fault.field}`}
          </b>{" "}
          {fault.said}
        </li>
      ))}
    </ul>
  );
}

/** How far a file has been taken in; it goes on in the background, whatever one does meanwhile. */
function Taking({ file }: { file: string }) {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: keys.labFile(file),
    queryFn: async () => {
      const coming = await taken(
        api.GET("/api/lab/files/{file_id}/", { params: { path: { file_id: file } } }),
      );
      if (coming.finished) void client.invalidateQueries({ queryKey: keys.samples });
      return coming;
    },
    refetchInterval: ({ state }) => (state.data?.finished ? false : LOOK_AGAIN),
  });
  if (!data) return null;
  const share = data.lines ? Math.round((data.done / data.lines) * 100) : 0;
  return (
    <div role="status">
      <Progress percent={data.finished ? 100 : share} showInfo={false} strokeColor="#155e63" />
      <p>
        {data.finished ? "Taken in: " : "Being taken in: "}
        <b className={textCss.tabular}>
          {data.taken} of {data.lines} lines
        </b>
      </p>
      <Faults coming={data} />
    </div>
  );
}

function SendIn() {
  const [file, setFile] = useState("");
  const send = useMutation({
    mutationFn: async (chosen: File) => {
      const id = crypto.randomUUID();
      await taken(api.POST("/api/lab/files/", { body: { id, text: await chosen.text() } }));
      return id;
    },
    onSuccess: setFile,
  });
  return (
    <div className={wearCss.labIn}>
      <Upload
        accept=".csv,.json,text/csv,application/json"
        showUploadList={false}
        beforeUpload={(chosen) => {
          send.mutate(chosen);
          return false;
        }}
      >
        <Button loading={send.isPending}>Take a laboratory&apos;s file in</Button>
      </Upload>
      <Refused said={send.error?.message} />
      {file && <Taking file={file} />}
    </div>
  );
}

/** Samples that wait for a laboratory, and its reports on their way in. */
export function Laboratory({ mayWork }: { mayWork: boolean }) {
  const { data } = useQuery({
    queryKey: keys.samples,
    queryFn: () => taken(api.GET("/api/lab/samples/")),
  });
  return (
    <section aria-label="Laboratory">
      {mayWork && <SendIn />}
      <Table<Sample>
        className={listsCss.lists}
        size="small"
        columns={COLUMNS}
        dataSource={data ?? []}
        rowKey="id"
        locale={{
          emptyText: "No samples yet. One is taken where a reservoir stands over distance.",
        }}
        pagination={{ pageSize: 10, hideOnSinglePage: true, showSizeChanger: false }}
      />
    </section>
  );
}
