/** The menu of what can be added ahead of an enclosure or beside it in one act. */
import { useEffect, useState } from "react";
import { answered, api, messageOf } from "../api/client";
import { Menu } from "../kit/Menu";
import type { Enclosure } from "../core/document";
import { useWork } from "../core/context";
import { AdditionWindow, type Addition } from "./AdditionWindow";

let known: Promise<Addition[]> | null = null;

/** The kinds are the same for the whole visit: they are asked for once. */
function kinds(): Promise<Addition[]> {
  known ??= answered(api.GET("/api/additions")).then(
    (list) => list.additions,
    (failure: unknown) => {
      known = null;
      throw failure;
    },
  );
  return known;
}

export function Additions({ enclosure }: { enclosure: Enclosure }) {
  const { state } = useWork("state");
  const [additions, setAdditions] = useState<Addition[]>([]);
  const [fault, setFault] = useState("");
  const [chosen, choose] = useState<Addition | null>(null);
  useEffect(() => {
    let wanted = true;
    kinds()
      .then((list) => wanted && setAdditions(list))
      .catch((failure: unknown) => wanted && setFault(messageOf(failure)));
    return () => {
      wanted = false;
    };
  }, []);
  if (state !== "proposed") return null;
  if (fault) return <p className="narrow text-soft">{fault}</p>;
  return (
    <>
      <Menu
        button="Add ahead or beside"
        className="rounded-sm border border-rule px-2.5 py-0.5 hover:bg-touched pointer-coarse:min-h-11"
        mark="beside"
        upward
        acts={additions.map((item) => ({ label: item.title, onAct: () => choose(item) }))}
      />
      <AdditionWindow addition={chosen} enclosure={enclosure} onClose={() => choose(null)} />
    </>
  );
}
