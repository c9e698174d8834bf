import { Button, Upload } from "antd";
import { useMutation } from "@tanstack/react-query";
import type { MouseEvent } from "react";
import { api, taken } from "../api/client";
import { Refused } from "../ui/Refused";
import type { Pictured } from "./reading";
import painterCss from "./painter.module.css";
import textCss from "../ui/text.module.css";

const MOST = 6;

function useUpload(bike: string, done: (id: string) => void) {
  return useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append("id", crypto.randomUUID());
      form.append("picture", file);
      return taken(
        api.POST("/api/bikes/{bike_id}/plug-pictures/", {
          params: { path: { bike_id: bike } },
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        }),
      );
    },
    onSuccess: ({ id }) => done(id),
  });
}

/** A picture with the spot that is marked on it; tapping it marks another. */
export function MarkedPicture({
  picture,
  mark,
}: {
  picture: Pictured;
  mark?: (x: number, y: number) => void;
}) {
  const shown = (
    <>
      <img src={`/api/plug-pictures/${picture.id}/`} alt="The plug" />
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
  const upload = useUpload(bike, (id) => set([...pictures, { id }]));
  return (
    <div className={painterCss.plugPictures}>
      {pictures.map((picture, index) => (
        <figure key={picture.id}>
          <MarkedPicture
            picture={picture}
            mark={(x, y) => set(pictures.map((one, n) => (n === index ? { ...one, x, y } : one)))}
          />
          <Button type="text" onClick={() => set(pictures.filter((_, n) => n !== index))}>
            Leave it out
          </Button>
        </figure>
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
        <Refused said={upload.error?.message ?? ""} />
      </div>
    </div>
  );
}
