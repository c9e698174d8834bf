import { createStore, del, get, set } from "idb-keyval";
import { useEffect, useState } from "react";
import { api, Refusal, taken, type Problem } from "../api/client";

/** A picture on this device that the server has not got yet. */
interface Here {
  bike: string;
  file: Blob;
}

/** What came of sending a picture: it is there; the server would not have it; or no answer. */
export type PictureSent =
  { kind: "there" } | { kind: "refused"; problem: Problem } | { kind: "unreachable" };

const THERE: PictureSent = { kind: "there" };
const store = createStore("oilward.pictures", "pictures");
// what this device has no place for is kept by this page
const spare = new Map<string, Here>();

async function find(id: string): Promise<Here | undefined> {
  return spare.get(id) ?? (await get<Here>(id, store).catch(() => undefined));
}

/** What is left out is kept no longer. */
export async function forgetPicture(id: string): Promise<void> {
  spare.delete(id);
  await del(id, store).catch(() => undefined);
}

/** Keeps a picture on this device until it is sent. */
export async function keepPicture(id: string, bike: string, file: Blob): Promise<void> {
  try {
    await set(id, { bike, file } satisfies Here, store);
  } catch {
    spare.set(id, { bike, file });
  }
}

/** Sends a picture, if it is on this device; under its own id, so that twice is once. */
export async function sendPicture(id: string): Promise<PictureSent> {
  const here = await find(id);
  if (!here) return THERE;
  const form = new FormData();
  form.append("id", id);
  form.append("picture", here.file);
  try {
    await taken(
      api.POST("/api/bikes/{bike_id}/plug-pictures/", {
        params: { path: { bike_id: here.bike } },
        body: form as never,
        bodySerializer: (body: unknown) => body as FormData,
      }),
    );
  } catch (error) {
    if (!(error instanceof Refusal) || error.problem.status === 401) return { kind: "unreachable" };
    await forgetPicture(id);
    return { kind: "refused", problem: error.problem };
  }
  await forgetPicture(id);
  return THERE;
}

/** Where a picture is shown from: this device while it has it, else the server. */
export function usePicture(id: string): string {
  const [local, setLocal] = useState("");
  useEffect(() => {
    let url = "";
    let gone = false;
    void find(id).then((here) => {
      if (!here || gone) return;
      url = URL.createObjectURL(here.file);
      setLocal(url);
    });
    return () => {
      gone = true;
      if (url) URL.revokeObjectURL(url);
    };
  }, [id]);
  return local || `/api/plug-pictures/${id}/`;
}
