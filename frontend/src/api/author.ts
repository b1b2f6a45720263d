/** Who is at work, told with every request, so that others who have the site open see by whom it was changed. */
import { useStorage } from "@vueuse/core";

/** A name that this window gives itself, so that it knows its own deeds. */
export const WINDOW = Array.from(crypto.getRandomValues(new Uint8Array(8)), (byte) =>
  byte.toString(16).padStart(2, "0"),
).join("");

/** How the author calls themselves; "" for nobody in particular. */
export const authorName = useStorage("signpost-author", "");

export function authorHeader(): string {
  return `${WINDOW};${encodeURIComponent(authorName.value.slice(0, 80))}`;
}
