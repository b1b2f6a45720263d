/** The changes of a site: the list, undo and redo. */
import { defineStore } from "pinia";
import { computed, ref, shallowRef } from "vue";
import { api, data, detailOf, type ChangeEntry } from "../api/client";

export const useChanges = defineStore("changes", () => {
  const entries = shallowRef<ChangeEntry[]>([]); // the newest first
  const problem = ref("");

  const undoable = computed(() => entries.value.find((entry) => !entry.undone && entry.can_turn) ?? null);
  /** The oldest change that is undone and can be made again. */
  const redoable = computed(() => entries.value.filter((entry) => entry.undone && entry.can_turn).at(-1) ?? null);

  async function load(siteId: string): Promise<void> {
    try {
      entries.value = await data(api.GET("/api/sites/{site_id}/changes", { params: { path: { site_id: siteId } } }));
      problem.value = "";
    } catch (error) {
      problem.value = detailOf(error);
    }
  }

  /** Undo a change, or make an undone one again; what is wrong where that cannot be, or "". */
  async function turn(siteId: string, entry: ChangeEntry): Promise<string> {
    const params = { params: { path: { site_id: siteId, number: entry.number } } };
    try {
      await data<unknown>(
        entry.undone
          ? api.POST("/api/sites/{site_id}/changes/{number}/redo", params)
          : api.POST("/api/sites/{site_id}/changes/{number}/undo", params),
      );
      return "";
    } catch (error) {
      return detailOf(error);
    }
  }

  return { entries, problem, undoable, redoable, load, turn };
});
