/** The pictures taken on site: listed once, added, given words, taken away. Each is made small here before it is sent. */
import { useCallback, useEffect, useState } from "react";
import { answered, api, ofFile, type Schemas } from "../api/client";

export type Picture = Schemas["PictureOut"];
type Pictures = Schemas["PictureList"];

const LONGEST_SIDE = 1600;
const QUALITY = 0.85;

export interface PictureActs {
  add: (thingId: string, file: Blob) => Promise<void>;
  say: (pictureId: string, caption: string) => Promise<void>;
  takeAway: (pictureId: string) => Promise<void>;
}

export function usePictures(jobId: string): { pictures: Pictures | null; acts: PictureActs } {
  const [pictures, setPictures] = useState<Pictures | null>(null);
  useEffect(() => {
    let wanted = true;
    answered(api.GET("/api/jobs/{job_id}/pictures", { params: { path: { job_id: jobId } } }))
      .then((told) => wanted && setPictures(told))
      .catch(() => undefined); // without them the survey goes on; adding one tells what is wrong
    return () => {
      wanted = false;
    };
  }, [jobId]);
  const add = useCallback(
    async (thingId: string, file: Blob) => {
      const params = { path: { job_id: jobId, thing_id: thingId } };
      const sent = await small(file);
      setPictures(await answered(api.POST("/api/jobs/{job_id}/pictures/of/{thing_id}", { params, ...ofFile(sent) })));
    },
    [jobId],
  );
  const say = useCallback(
    async (pictureId: string, caption: string) => {
      const params = { path: { job_id: jobId, picture_id: pictureId } };
      setPictures(await answered(api.PUT("/api/jobs/{job_id}/pictures/{picture_id}", { params, body: { caption } })));
    },
    [jobId],
  );
  const takeAway = useCallback(
    async (pictureId: string) => {
      const params = { path: { job_id: jobId, picture_id: pictureId } };
      setPictures(await answered(api.DELETE("/api/jobs/{job_id}/pictures/{picture_id}", { params })));
    },
    [jobId],
  );
  return { pictures, acts: { add, say, takeAway } };
}

/** The picture drawn anew no larger than it is kept; as it came where this browser cannot read it: the server then tells why. */
async function small(file: Blob): Promise<Blob> {
  try {
    const image = await createImageBitmap(file);
    const scale = Math.min(1, LONGEST_SIDE / Math.max(image.width, image.height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.max(1, Math.round(image.width * scale));
    canvas.height = Math.max(1, Math.round(image.height * scale));
    const pen = canvas.getContext("2d");
    if (!pen) return file;
    pen.fillStyle = "white";
    pen.fillRect(0, 0, canvas.width, canvas.height);
    pen.drawImage(image, 0, 0, canvas.width, canvas.height);
    image.close();
    return await new Promise((done) => canvas.toBlob((drawn) => done(drawn ?? file), "image/jpeg", QUALITY));
  } catch {
    return file;
  }
}
