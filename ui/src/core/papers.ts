/** Papers that the server makes: asked for again and again until they are ready, then handed to the browser as a file. */
import { ApiFailure, asFailure, type Schemas } from "../api/client";

export type HowFar = Schemas["HowFarOut"];

const PAUSE_MS = 300;
const BUSY_MS = 1000;

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** Save a file from the page. */
export function download(name: string, content: Blob): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** Fetch a paper and save it; `tell` hears how far it is until then. A busy server is asked again, until stopped. An
 * ApiFailure where it refuses. */
export async function fetchPaper(href: string, tell: (how: HowFar) => void, signal: AbortSignal): Promise<void> {
  for (;;) {
    const response = await fetch(`${href}?soon=1`, { signal }).catch((failure: unknown) => {
      if (signal.aborted) throw failure;
      throw new ApiFailure(0, "away", "The server does not answer.");
    });
    if (!response.ok) {
      const failure = await asFailure(response);
      if (failure.code !== "busy") throw failure;
      tell({ begun: false, ahead: 0, done: 0, parts: 0 });
      await pause(BUSY_MS);
      continue;
    }
    if (response.status !== 202) {
      download(nameOf(response) ?? "paper", await response.blob());
      return;
    }
    tell((await response.json()) as HowFar);
    await pause(PAUSE_MS);
  }
}

function nameOf(response: Response): string | undefined {
  return /filename="([^"]+)"/.exec(response.headers.get("Content-Disposition") ?? "")?.[1];
}

/** How far a paper is, in words. */
export function howFarWords(how: HowFar): string {
  if (!how.begun) return how.ahead ? `Waiting, ${how.ahead} ahead` : "Waiting its turn";
  return how.parts ? `Laid out: ${how.done} of ${how.parts} parts` : "Checking the job";
}
