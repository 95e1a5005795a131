/** One paper to fetch from the server, with how far it is while it is made. */
import { useEffect, useRef, useState } from "react";
import { messageOf } from "../../api/client";
import { fetchPaper, howFarWords } from "../../core/papers";

const BOXED = "min-h-11 rounded-sm border border-copper px-3 hover:bg-touched";
const INLINE = "hover:underline pointer-coarse:min-h-11";

export function PaperLink({
  href,
  words,
  disabled = false,
  boxed = false,
}: {
  href: string;
  words: string;
  disabled?: boolean;
  boxed?: boolean;
}) {
  const [told, setTold] = useState("");
  const [fault, setFault] = useState("");
  const under = useRef<AbortController | null>(null);
  useEffect(() => () => under.current?.abort(), []);

  const stop = () => {
    under.current?.abort();
    under.current = null;
    setTold("");
  };
  const ask = () => {
    const controller = new AbortController();
    under.current = controller;
    setFault("");
    setTold("Asking for it");
    fetchPaper(href, (how) => setTold(howFarWords(how)), controller.signal)
      .catch((failure: unknown) => {
        if (!controller.signal.aborted) setFault(`${words}: ${messageOf(failure)}`);
      })
      .finally(() => {
        if (under.current === controller) stop();
      });
  };
  return (
    <span className="inline-flex flex-wrap items-center gap-2">
      <button
        type="button"
        data-href={href}
        disabled={disabled}
        aria-busy={told !== ""}
        onClick={told ? stop : ask}
        className={`inline-flex items-center font-semibold text-copper disabled:opacity-50 ${boxed ? BOXED : INLINE}`}
      >
        {told ? `Stop: ${words}` : words}
      </button>
      <span role="status" className={`empty:hidden ${fault ? "text-fix" : "text-soft"}`}>
        {fault || told}
      </span>
    </span>
  );
}
