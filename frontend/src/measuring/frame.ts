/** Pages rendered out of sight, to be measured, or to have their jumps tried. */
import type { GeometryBody, Window } from "../api/client";

export type Geometry = Omit<GeometryBody, "digest" | "window">;

/** Windows narrower than this are of phones and tablets, whose scroll bars take no room; in CSS pixels. */
const BARE_BELOW = 1000;
/** How long a page may take to answer, and between two signs of life while jumps are tried, in milliseconds. */
const PATIENCE = 20_000;

/** Return where a page is shown as a reader with this window sees it. */
export function previewAddress(siteId: string, path: string, window: Window, version: string, revision = ""): string {
  const encoded = path.split("/").map(encodeURIComponent).join("/");
  const query = new URLSearchParams({ v: version });
  if (window.text_size !== 100) query.set("text_size", String(window.text_size));
  if (window.width < BARE_BELOW) query.set("bare", "true");
  if (revision) query.set("revision", revision);
  return `/preview/${siteId}/${encoded}?${query}`;
}

interface Question {
  kind: "measure" | "try";
  css?: string;
  fragments?: readonly string[];
}

/** Render a page out of sight, ask our script in it something, and return the answer. */
function ask<T>(
  address: string,
  size: Window,
  question: Question,
  answer: string,
  heard?: (done: number) => void,
  stop?: AbortSignal,
): Promise<T> {
  return new Promise((resolve, reject) => {
    const frame = document.createElement("iframe");
    frame.setAttribute("sandbox", "allow-scripts");
    frame.setAttribute("aria-hidden", "true");
    frame.referrerPolicy = "no-referrer";
    frame.tabIndex = -1;
    frame.title = "Measuring";
    // behind everything and yet in the window: browsers do not lay out frames that are out of it
    frame.style.cssText = `position:fixed;left:0;top:0;width:${size.width}px;height:${size.height}px;border:0;opacity:0;z-index:-1;pointer-events:none`;
    let timer = 0;
    const end = () => {
      window.clearTimeout(timer);
      window.removeEventListener("message", hear);
      stop?.removeEventListener("abort", abort);
      frame.remove();
    };
    const abort = () => {
      end();
      reject(new DOMException("Stopped.", "AbortError"));
    };
    const wait = () => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => {
        end();
        reject(new Error("The page did not answer when it was to be measured."));
      }, PATIENCE);
    };
    const hear = (event: MessageEvent) => {
      if (event.source !== frame.contentWindow || event.data?.from !== "signpost-walk") return;
      wait();
      if (event.data.kind === "ready")
        frame.contentWindow?.postMessage({ to: "signpost-walk", id: 1, ...question }, "*");
      else if (event.data.kind === "trying") heard?.(Number(event.data.done));
      else if (event.data.kind === answer) {
        end();
        resolve(event.data as T);
      }
    };
    window.addEventListener("message", hear);
    stop?.addEventListener("abort", abort);
    wait();
    frame.src = address;
    document.body.append(frame);
  });
}

/** Measure a page; `css` is added to its style for that long. */
export async function measureAt(address: string, size: Window, css = ""): Promise<Geometry> {
  return (await ask<{ geometry: Geometry }>(address, size, { kind: "measure", css }, "measured")).geometry;
}

/** Follow jumps one by one, each from the page's top, and return where the window's top ends, in CSS pixels. */
export async function tryJumps(
  address: string,
  size: Window,
  fragments: readonly string[],
  heard: (done: number) => void,
  stop: AbortSignal,
): Promise<number[]> {
  return (await ask<{ ends: number[] }>(address, size, { kind: "try", fragments }, "tried", heard, stop)).ends;
}
