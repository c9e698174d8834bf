import { Button, Upload } from "antd";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, type MouseEvent } from "react";
import { Refused } from "../ui/Refused";
import {
  forgetPicture,
  keepPicture,
  sendPicture,
  usePicture,
  type PictureSent,
} from "./pictureHere";
import type { Pictured } from "./reading";
import painterCss from "./painter.module.css";
import textCss from "../ui/text.module.css";

const MOST = 6;

/** Keeps a picture here at once, and sends it; where there is no network it waits for its finding. */
function useUpload(bike: string, add: (id: string) => void, without: (id: string) => void) {
  return useMutation({
    mutationFn: async (file: File): Promise<PictureSent> => {
      const id = crypto.randomUUID();
      await keepPicture(id, bike, file);
      add(id);
      const sent = await sendPicture(id);
      if (sent.kind === "refused") without(id);
      return sent;
    },
  });
}

function said(sent: PictureSent | undefined): string {
  return sent?.kind === "refused" ? sent.problem.detail : "";
}

/** A picture with the spot that is marked on it; tapping it marks another. */
export function MarkedPicture({
  picture,
  mark,
}: {
  picture: Pictured;
  mark?: (x: number, y: number) => void;
}) {
  const src = usePicture(picture.id);
  const shown = (
    <>
      <img src={src} alt="The plug" />
      {picture.x !== undefined && picture.y !== undefined && (
        <span
          className={painterCss.spot}
          style={{ left: `${picture.x * 100}%`, top: `${picture.y * 100}%` }}
          aria-hidden
        />
      )}
    </>
  );
  if (!mark) return <span className={painterCss.marked}>{shown}</span>;
  const at = (event: MouseEvent<HTMLButtonElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    // by keyboard there is no place: its middle
    const inside = event.detail > 0;
    mark(
      inside ? (event.clientX - box.left) / box.width : 0.5,
      inside ? (event.clientY - box.top) / box.height : 0.5,
    );
  };
  return (
    <button type="button" className={painterCss.marked} aria-label="Mark the spot" onClick={at}>
      {shown}
    </button>
  );
}

/** One picture, its spot, and the way to leave it out: then it waits here no longer. */
function Figure(props: {
  picture: Pictured;
  mark: (x: number, y: number) => void;
  leaveOut: () => void;
}) {
  const { picture, mark, leaveOut } = props;
  return (
    <figure>
      <MarkedPicture picture={picture} mark={mark} />
      <Button
        type="text"
        onClick={() => {
          void forgetPicture(picture.id);
          leaveOut();
        }}
      >
        Leave it out
      </Button>
    </figure>
  );
}

/** Pictures by camera or file, a spot marked on each. Place and camera are stripped from them. */
export function Pictures({
  bike,
  pictures,
  set,
}: {
  bike: string;
  pictures: Pictured[];
  set: (pictures: Pictured[]) => void;
}) {
  const now = useRef(pictures);
  useEffect(() => {
    now.current = pictures;
  }, [pictures]);
  const upload = useUpload(
    bike,
    (id) => set([...now.current, { id }]),
    (id) => set(now.current.filter((one) => one.id !== id)),
  );
  return (
    <div className={painterCss.plugPictures}>
      {pictures.map((picture, index) => (
        <Figure
          key={picture.id}
          picture={picture}
          mark={(x, y) => set(pictures.map((one, n) => (n === index ? { ...one, x, y } : one)))}
          leaveOut={() => set(pictures.filter((_, n) => n !== index))}
        />
      ))}
      <div>
        {pictures.length < MOST && (
          <Upload
            accept="image/jpeg,image/png,image/webp"
            capture="environment"
            showUploadList={false}
            beforeUpload={(file) => {
              upload.mutate(file);
              return false;
            }}
          >
            <Button loading={upload.isPending}>Take or choose a picture</Button>
          </Upload>
        )}
        <p className={textCss.soft}>Tap a picture to mark the spot.</p>
        {upload.data?.kind === "unreachable" && (
          <p className={textCss.soft} role="status">
            It waits on this device, and goes with its finding.
          </p>
        )}
        <Refused said={said(upload.data)} />
      </div>
    </div>
  );
}
