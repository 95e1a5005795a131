/** The pictures of one box: small in a row, one opened large with its words, and the camera. */
import { useId, useState, type ChangeEvent } from "react";
import { messageOf } from "../../api/client";
import type { Picture, PictureActs } from "../../core/usePictures";
import { Button } from "../../kit/Button";
import { Window } from "../../kit/Window";

interface PicturesProps {
  jobId: string;
  /** What the pictures show, in words. */
  of: string;
  thingId: string;
  pictures: Picture[];
  most: number;
  acts: PictureActs;
  mayAdd: boolean;
}

export function Pictures({ jobId, of, thingId, pictures, most, acts, mayAdd }: PicturesProps) {
  const [openId, setOpenId] = useState<string | null>(null);
  const [sending, setSending] = useState(0);
  const [fault, setFault] = useState("");
  const opened = pictures.find((item) => item.id === openId);
  if (pictures.length === 0 && !mayAdd) return null;

  const send = async (files: File[]) => {
    setFault("");
    setSending(files.length);
    for (const file of files) {
      try {
        await acts.add(thingId, file);
      } catch (failure) {
        setFault(`${file.name}: ${reasonOf(failure)}`);
        break;
      } finally {
        setSending((left) => left - 1);
      }
    }
    setSending(0);
  };
  return (
    <div className="mt-1">
      <ul aria-label={`Pictures of ${of}`} className="flex flex-wrap gap-2 empty:hidden">
        {pictures.map((picture, at) => (
          <li key={picture.id}>
            <button
              type="button"
              className="block border border-rule hover:border-copper"
              onClick={() => setOpenId(picture.id)}
            >
              <img
                src={addressOf(jobId, picture)}
                alt={picture.caption || `Picture ${at + 1} of ${of}`}
                loading="lazy"
                className="h-20 w-24 object-cover"
              />
            </button>
          </li>
        ))}
      </ul>
      {mayAdd && pictures.length < most ? (
        <Camera of={of} sending={sending} onTaken={(files) => void send(files)} />
      ) : null}
      {mayAdd && pictures.length >= most ? (
        <p className="text-soft">{most} pictures of a box are kept: take one away for another one.</p>
      ) : null}
      {fault ? (
        <p role="alert" className="text-fix">
          {fault}
        </p>
      ) : null}
      {opened ? (
        <OpenPicture
          key={opened.id}
          address={addressOf(jobId, opened)}
          of={of}
          picture={opened}
          acts={acts}
          mayChange={mayAdd}
          onClose={() => setOpenId(null)}
        />
      ) : null}
    </div>
  );
}

const addressOf = (jobId: string, picture: Picture) => `/api/jobs/${jobId}/pictures/${picture.id}`;

function reasonOf(failure: unknown): string {
  const issue = (failure as { issues?: { reason: string; remedy: string }[] }).issues?.[0];
  return issue ? `${issue.reason} ${issue.remedy}` : messageOf(failure);
}

function Camera({ of, sending, onTaken }: { of: string; sending: number; onTaken: (files: File[]) => void }) {
  const id = useId();
  const taken = (event: ChangeEvent<HTMLInputElement>) => {
    const files = [...(event.target.files ?? [])];
    event.target.value = "";
    if (files.length > 0) onTaken(files);
  };
  return (
    <p className="mt-1 flex flex-wrap items-center gap-2">
      <label
        htmlFor={id}
        className="relative inline-flex cursor-pointer items-center rounded-sm border border-rule px-2 py-0.5 font-semibold text-copper focus-within:outline-2 focus-within:outline-copper hover:border-copper pointer-coarse:min-h-11"
      >
        Add a picture
        <input
          id={id}
          type="file"
          accept="image/jpeg,image/png"
          multiple
          aria-label={`Add a picture of ${of}`}
          className="sr-only"
          onChange={taken}
        />
      </label>
      <span role="status" className="text-soft">
        {sending > 0 ? `Sending ${sending}…` : ""}
      </span>
    </p>
  );
}

interface OpenPictureProps {
  address: string;
  of: string;
  picture: Picture;
  acts: PictureActs;
  mayChange: boolean;
  onClose: () => void;
}

function OpenPicture({ address, of, picture, acts, mayChange, onClose }: OpenPictureProps) {
  const [words, setWords] = useState(picture.caption);
  const [sure, setSure] = useState(false);
  const [fault, setFault] = useState("");
  const tell = (failure: unknown) => setFault(messageOf(failure));
  const keepWords = () => {
    if (words.trim() !== picture.caption) acts.say(picture.id, words.trim()).catch(tell);
  };
  const takeAway = () => {
    if (!sure) setSure(true);
    else acts.takeAway(picture.id).then(onClose, tell);
  };
  return (
    <Window title={`Picture of ${of}`} open wide onClose={onClose}>
      <img src={address} alt={picture.caption || `Picture of ${of}`} className="mx-auto max-h-[52vh] object-contain" />
      <p className="narrow mt-2 text-soft">
        {picture.author}, {new Date(picture.at).toLocaleString()}. Place and camera are not kept with it.
      </p>
      {mayChange ? (
        <div className="mt-2 flex flex-wrap items-end gap-2">
          <label className="min-w-60 flex-1">
            <span className="narrow block text-soft">What it shows</span>
            <input
              dir="auto"
              className="w-full rounded-sm border border-rule bg-sheet px-1.5 py-0.5 pointer-coarse:min-h-11"
              maxLength={200}
              value={words}
              onChange={(event) => setWords(event.target.value)}
              onBlur={keepWords}
            />
          </label>
          <Button onClick={takeAway}>{sure ? "Yes, delete it for good" : "Delete it…"}</Button>
        </div>
      ) : (
        <p dir="auto">{picture.caption}</p>
      )}
      {fault ? (
        <p role="alert" className="text-fix">
          {fault}
        </p>
      ) : null}
    </Window>
  );
}
