import { Button, Upload } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, taken, type Shape, gone } from "../api/client";
import { keys } from "../api/keys";
import { dayWords } from "../ui/days";
import { Refused } from "../ui/Refused";
import bikeCss from "./bike.module.css";
import textCss from "../ui/text.module.css";

type Photo = Shape["PhotoLine"];

function usePhotos(bike: string) {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries({ queryKey: keys.bike(bike) });
  const add = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append("id", crypto.randomUUID());
      form.append("picture", file);
      return taken(
        api.POST("/api/bikes/{bike_id}/photos/", {
          params: { path: { bike_id: bike } },
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        }),
      );
    },
    onSuccess,
  });
  const remove = useMutation({
    mutationFn: (photo_id: string) =>
      gone(api.DELETE("/api/photos/{photo_id}/", { params: { path: { photo_id } } })),
    onSuccess,
  });
  return { add, remove };
}

function Picture({ photo, remove }: { photo: Photo; remove: (() => void) | null }) {
  const day = dayWords(photo.taken_on);
  return (
    <figure>
      <img src={`/api/photos/${photo.id}/`} alt={photo.caption || `Picture of ${day}`} />
      <figcaption className={textCss.soft}>
        {day}, {photo.taken_by}
        {remove && (
          <Button type="text" onClick={remove}>
            Remove
          </Button>
        )}
      </figcaption>
    </figure>
  );
}

/** Pictures of the bike. The server strips place and camera from them. */
export function Photos({
  bike,
  photos,
  mayWork,
}: {
  bike: string;
  photos: Photo[];
  mayWork: boolean;
}) {
  const { add, remove } = usePhotos(bike);
  return (
    <div className={bikeCss.photos}>
      {photos.map((photo) => (
        <Picture
          key={photo.id}
          photo={photo}
          remove={mayWork ? () => remove.mutate(photo.id) : null}
        />
      ))}
      {mayWork && (
        <Upload
          accept="image/jpeg,image/png,image/webp"
          showUploadList={false}
          beforeUpload={(file) => {
            add.mutate(file);
            return false;
          }}
        >
          <Button loading={add.isPending}>Add a picture</Button>
        </Upload>
      )}
      <Refused said={add.error?.message ?? remove.error?.message} />
    </div>
  );
}
