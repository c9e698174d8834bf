import { Button } from "antd";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, taken, type Shape } from "../api/client";
import { keys } from "../api/hooks";
import { gone } from "../garage/sheets";
import { Refused } from "../workshop/Refused";

/** Pictures of the bike. The server strips place and camera from them. */
export function Photos({
  bike,
  photos,
  mayWork,
}: {
  bike: string;
  photos: Shape["PhotoLine"][];
  mayWork: boolean;
}) {
  const client = useQueryClient();
  const done = () => client.invalidateQueries({ queryKey: keys.bike(bike) });
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
    onSuccess: done,
  });
  const remove = useMutation({
    mutationFn: (photo_id: string) =>
      gone(api.DELETE("/api/photos/{photo_id}/", { params: { path: { photo_id } } })),
    onSuccess: done,
  });
  return (
    <div className="photos">
      {photos.map((photo) => (
        <figure key={photo.id}>
          <img
            src={`/api/photos/${photo.id}/`}
            alt={photo.caption || `Picture of ${photo.taken_on}`}
          />
          <figcaption className="soft">
            {photo.taken_on}, {photo.taken_by}
            {mayWork && (
              <Button size="small" type="text" onClick={() => remove.mutate(photo.id)}>
                Remove
              </Button>
            )}
          </figcaption>
        </figure>
      ))}
      {mayWork && (
        <label className="file-button">
          {add.isPending ? "Sending …" : "Add a picture"}
          <input
            type="file"
            accept="image/jpeg,image/png,image/webp"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) add.mutate(file);
              event.target.value = "";
            }}
          />
        </label>
      )}
      <Refused said={add.error?.message ?? remove.error?.message} />
    </div>
  );
}
