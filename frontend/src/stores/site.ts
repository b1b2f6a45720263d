/** The site on the desk; its pages and findings are fetched a stretch at a time by what shows them. */
import { defineStore } from "pinia";
import { ref, shallowRef } from "vue";
import { api, data, detailOf, type SiteView } from "../api/client";
import type { Status } from "./page";

/** Up to how many pages are checked while their list is fetched. */
const FEW = 40;

export interface Progress {
  what: "read" | "checked";
  done: number;
  total: number;
}

export const useSite = defineStore("site", () => {
  const siteId = ref("");
  const view = shallowRef<SiteView | null>(null);
  const name = ref("");
  /** Goes up whenever the site is loaded again, so that what shows a stretch of it fetches that anew. */
  const turn = ref(0);
  const status = ref<Status>("loading");
  const problem = ref("");
  const progress = ref<Progress | null>(null);
  /** How far the reading had come when its author stopped it. */
  const stopped = ref<Progress | null>(null);
  /** Whether so many pages are still to be read that the desk is shown as they come. */
  const arriving = ref(false);
  let source: EventSource | null = null;
  let reading: Promise<void> | null = null; // the one that is followed
  let leave = () => {};

  /** Open a site: its pages are read first, with progress; `ArrivingPages` shows those of a large one meanwhile. */
  async function load(id: string): Promise<void> {
    stopped.value = null;
    if (id !== siteId.value) {
      siteId.value = id;
      view.value = null;
      name.value = "";
      status.value = "loading";
      await read(id);
      if (stopped.value) return;
    } else if (reading) {
      await reading;
      if (stopped.value) return;
    }
    const params = { params: { path: { site_id: id } } };
    try {
      let found = await data(api.GET("/api/sites/{site_id}", params));
      if (found.unchecked > FEW) {
        await read(id);
        if (stopped.value) return;
        found = await data(api.GET("/api/sites/{site_id}", params));
      }
      if (id !== siteId.value) return;
      view.value = found;
      name.value = found.name;
      turn.value++;
      status.value = "ready";
    } catch (error) {
      if (id !== siteId.value) return;
      problem.value = detailOf(error);
      status.value = "failed";
    }
  }

  /** Have the server read all pages, and follow how far that has come. */
  function read(id: string): Promise<void> {
    source?.close();
    const mine = new Promise<void>((resolve) => {
      source = new EventSource(`/api/sites/${encodeURIComponent(id)}/reading`);
      const finish = () => {
        source?.close();
        progress.value = null;
        arriving.value = false;
        if (reading === mine) reading = null;
        resolve();
      };
      leave = finish;
      source.addEventListener("progress", (event) => {
        const now: Progress = JSON.parse(event.data);
        progress.value = now;
        arriving.value ||= now.total > FEW;
      });
      source.addEventListener("done", finish);
      source.addEventListener("problem", finish);
      source.onerror = finish;
    });
    reading = mine;
    return mine;
  }

  /** Stop the reading, until the site is opened again. */
  async function stop(): Promise<void> {
    stopped.value = progress.value;
    const id = siteId.value;
    siteId.value = "";
    leave();
    await api.DELETE("/api/sites/{site_id}/reading", { params: { path: { site_id: id } } });
  }

  /** Give the site its name and its own address; return what is wrong, or "". */
  async function rename(name: string, base: string): Promise<string> {
    try {
      await data(
        api.PUT("/api/sites/{site_id}", {
          params: { path: { site_id: siteId.value } },
          body: { name, base: base || null },
        }),
      );
      await load(siteId.value);
      return "";
    } catch (error) {
      return detailOf(error);
    }
  }

  /** Forget the open site, so that it is read again when it is opened again. */
  function forget(): void {
    siteId.value = "";
  }

  return {
    siteId,
    view,
    name,
    turn,
    status,
    problem,
    progress,
    stopped,
    arriving,
    load,
    stop,
    rename,
    forget,
  };
});
