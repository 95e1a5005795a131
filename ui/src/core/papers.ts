/** Papers that the server makes: asked for again and again until they are ready, then handed to the browser as a file. */
import { ApiFailure, asFailure, type Schemas } from "../api/client";

export type HowFar = Schemas["HowFarOut"];

const PAUSE_MS = 300;

/** Save a file from the page. */
export function download(name: string, content: Blob): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** Fetch a paper and save it; `tell` hears how far it is until then. An ApiFailure where the server refuses. */
export async function fetchPaper(href: string, tell: (how: HowFar) => void, signal: AbortSignal): Promise<void> {
  for (;;) {
    const response = await fetch(`${href}?soon=1`, { signal }).catch((failure: unknown) => {
      if (signal.aborted) throw failure;
      throw new ApiFailure(0, "away", "The server does not answer.");
    });
    if (!response.ok) throw await asFailure(response);
    if (response.status !== 202) {
      download(nameOf(response) ?? "paper", await response.blob());
      return;
    }
    tell((await response.json()) as HowFar);
    await new Promise((done) => setTimeout(done, PAUSE_MS));
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
