/** A page in parts on the desk of one of them: its parts follow the stage, its sections lead to their own pages. */
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { api, data } from "../api/client";
import { usePage } from "../stores/page";
import { useMeasures } from "../stores/measures";
import { useParts } from "../stores/parts";
import { useStages } from "../stores/stages";
import { useTray } from "../stores/tray";

export function useWholePage(siteId: () => string, choose: (index: number) => void) {
  const page = usePage();
  const parts = useParts();
  const measures = useMeasures();
  const stages = useStages();
  const tray = useTray();
  const router = useRouter();
  const successor = ref(""); // the page that has what was on one which is not there any more

  watch(
    () => [page.stage === "parts", page.saved, measures.view?.digest, measures.view?.state, measures.window] as const,
    ([shown, saved], before) => {
      if (!shown || !saved || saved.path !== page.path) return;
      const was = before?.[1];
      const same =
        parts.view?.paths.includes(saved.path) && was?.path === saved.path && was.revision === saved.revision;
      if (same && parts.changed) return; // what is being tried out stays, though the page was read again
      void parts.load().then(parts.measureAll);
    },
    { immediate: true },
  );

  const whole = computed(() => (page.stage === "parts" && parts.inParts ? parts.view : null));
  const cuts = computed(() => {
    if (page.stage !== "parts" || !parts.view) return [];
    const tops = new Map(parts.view.places.map((place) => [place.at, place.top]));
    return parts.there
      .slice(1)
      .map((part) => ({ at: part.at, top: tops.get(part.at) ?? 0, part: part.number, title: part.title }));
  });
  /** What the road shows: the page, or at the stage of parts the whole of which it is one. */
  const road = computed(() => {
    const shown = whole.value;
    const places = (parts.view?.places ?? []).filter((place) => place.section !== null);
    return shown
      ? {
          page: {
            path: shown.home,
            height: shown.height,
            window_height: shown.view_height,
            sections: shown.sections,
          },
          measure: null,
          selected: parts.selected,
          cuts: cuts.value,
          places,
        }
      : { page: page.view!, measure: stages.measured, selected: page.selected, cuts: cuts.value, places };
  });

  /** Select a section of the whole page; one of another part opens that part. */
  function pick(index: number): void {
    const section = whole.value?.sections[index];
    if (!section) return choose(index);
    if (section.page === page.path) return choose(section.section);
    parts.wanted = { path: section.page, section: section.section };
    void router.push({ name: "page", params: { siteId: siteId(), path: section.page } });
  }

  watch(
    () => [page.status, page.path] as const,
    async ([status, path]) => {
      const wanted = parts.wanted;
      if (status === "ready" && wanted?.path === path) {
        parts.wanted = null;
        choose(wanted.section);
      }
      successor.value = "";
      if (status !== "failed") return;
      const found = await data(
        api.GET("/api/sites/{site_id}/successor", { params: { path: { site_id: siteId() }, query: { path } } }),
      ).catch(() => ({ path: null }));
      if (page.path !== path || !found.path) return;
      successor.value = found.path;
      if (!page.saved) return;
      const done = tray.notice; // it was open, and what was just done took it away
      await router.replace({ name: "page", params: { siteId: siteId(), path: found.path } });
      tray.notice = done;
    },
  );

  return { parts, road, pick, successor };
}
