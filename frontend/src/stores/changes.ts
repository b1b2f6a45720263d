/** The changes of a site: the list, undo and redo. */
import { defineStore } from "pinia";
import { ref, shallowRef } from "vue";
import { api, data, detailOf, Problem, type ChangeEntry, type ChangesView } from "../api/client";

/** Why a change could not be undone or made again, and whether the answer to that never came. */
export interface Wrong {
  words: string;
  broke: boolean;
}

export const useChanges = defineStore("changes", () => {
  const entries = shallowRef<ChangeEntry[]>([]); // the newest first
  const problem = ref("");

  const undoable = shallowRef<ChangeEntry | null>(null);
  const redoable = shallowRef<ChangeEntry | null>(null); // the oldest change that is undone and can be made again
  const more = ref(false); // whether there are older ones

  const ask = (siteId: string, before?: number, path = "") =>
    data(
      api.GET("/api/sites/{site_id}/changes", {
        params: { path: { site_id: siteId }, query: { before: before ?? null, path } },
      }),
    );

  async function load(siteId: string): Promise<void> {
    try {
      const found: ChangesView = await ask(siteId);
      entries.value = found.entries;
      more.value = found.more;
      undoable.value = found.undoable;
      redoable.value = found.redoable;
      problem.value = "";
    } catch (error) {
      problem.value = detailOf(error);
    }
  }

  /** Undo a change, or make an undone one again; what is wrong where that cannot be, or null. */
  async function turn(siteId: string, entry: ChangeEntry, key: string): Promise<Wrong | null> {
    const params = {
      params: { path: { site_id: siteId, number: entry.number }, header: { "idempotency-key": key } },
    };
    try {
      await data<unknown>(
        entry.undone
          ? api.POST("/api/sites/{site_id}/changes/{number}/redo", params)
          : api.POST("/api/sites/{site_id}/changes/{number}/undo", params),
      );
      return null;
    } catch (error) {
      const broke = error instanceof Problem && (error.status === 0 || error.status === 503);
      return { words: detailOf(error), broke };
    }
  }

  return { entries, more, problem, undoable, redoable, ask, load, turn };
});
