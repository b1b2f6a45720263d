/** The walk: jump links followed one by one in the rendered page, or all of them by themselves. */
import { defineStore } from "pinia";
import { computed, ref, shallowRef, watch } from "vue";
import { api, data, detailOf, type LandingView, type SiteWalk } from "../api/client";
import { previewAddress, tryJumps } from "../measuring/frame";
import { useMeasures } from "./measures";
import { usePage } from "./page";

export type Scope = "page" | "site";
export type Shown = "all" | "trouble";

export const keyOfLanding = (landing: LandingView): string => `${landing.page} ${landing.start}`;

export const useWalk = defineStore("walk", () => {
  const page = usePage();
  const measures = useMeasures();
  const scope = ref<Scope>("page");
  const shown = ref<Shown>("all");
  const siteWalk = shallowRef<SiteWalk | null>(null);
  const chosen = ref(""); // key of the link that was followed last
  const turn = ref(0); // goes up with each link that is to be followed
  const backTurn = ref(0); // goes up with each back-to-top link
  const trail = shallowRef<{ path: string; top: number }[]>([]); // where the window was before each jump
  const landed = shallowRef<{ key: string; top: number } | null>(null); // where the last jump ended
  const top = ref(0); // where the frame's window is now
  const wish = ref<number | null>(null); // where the road sends it
  const tried = shallowRef<Map<string, number>>(new Map()); // where jumps ended, by key
  const progress = ref<{ done: number; total: number; what: string } | null>(null);
  const problem = ref("");
  let stop: AbortController | null = null;

  const abroad = shallowRef<{ path: string; landings: readonly LandingView[] } | null>(null); // the page that is walked, while another one is shown

  /** Within how many pixels a jump ends where it was expected to. */
  const exact = computed(() => measures.view?.exact ?? 0);
  const here = computed<readonly LandingView[]>(() => [
    ...(measures.view?.landings ?? []),
    ...(measures.view?.incoming ?? []),
  ]);
  const all = computed<readonly LandingView[]>(() => {
    if (scope.value === "site") return siteWalk.value?.landings ?? [];
    return abroad.value && abroad.value.path !== measures.view?.path ? abroad.value.landings : here.value;
  });
  const of = computed(() => (abroad.value && abroad.value.path !== page.path ? abroad.value.path : page.path)); // the page that is walked
  const query = ref(""); // words that a link or its target has
  const worstFirst = ref(false);
  const steps = computed(() => {
    const words = query.value.trim().toLowerCase();
    const found = all.value.filter(
      (landing) =>
        (shown.value === "all" || landing.trouble) &&
        (!words ||
          `${landing.page} ${landing.text} ${landing.to_page} ${landing.to_text} ${landing.fragment}`
            .toLowerCase()
            .includes(words)),
    );
    return worstFirst.value ? [...found].sort((a, b) => Number(b.trouble) - Number(a.trouble)) : found;
  });
  const at = computed(() => steps.value.findIndex((landing) => keyOfLanding(landing) === chosen.value));
  const step = computed<LandingView | null>(
    () => all.value.find((landing) => keyOfLanding(landing) === chosen.value) ?? null,
  );
  const troubles = computed(() => all.value.filter((landing) => landing.trouble).length);

  /** Follow a link. */
  function follow(landing: LandingView): void {
    if (scope.value === "page" && of.value === page.path) abroad.value = { path: page.path, landings: all.value };
    chosen.value = keyOfLanding(landing);
    landed.value = null;
    trail.value = [...trail.value, { path: page.path, top: top.value }];
    turn.value++;
  }

  /** Follow the next link, or the previous one; from the last, the first comes next. */
  function go(by: number): void {
    const count = steps.value.length;
    if (!count) return;
    const from = at.value < 0 ? (by > 0 ? -1 : 0) : at.value;
    const next = steps.value[(from + by + count) % count];
    if (next) follow(next);
  }

  /** Follow the next link whose landing wants something done. */
  function goTrouble(by: number): boolean {
    const list = all.value;
    const from = list.findIndex((landing) => keyOfLanding(landing) === chosen.value);
    for (let step = 1; step <= list.length; step++) {
      const found = list[(from + by * step + list.length * (step + 1)) % list.length];
      if (found?.trouble) {
        follow(found);
        return true;
      }
    }
    return false;
  }

  /** Measure all pages of the site in the window, and list all their jump links. */
  async function loadSite(): Promise<void> {
    const size = measures.window;
    const params = {
      path: { site_id: page.siteId },
      query: { width: size.width, height: size.height, text_size: size.text_size },
    };
    problem.value = "";
    const halted = (stop = new AbortController()).signal;
    try {
      siteWalk.value = await data(api.GET("/api/sites/{site_id}/walk", { params }));
      const missing = siteWalk.value.pages.filter((found) => found.state !== "measured");
      for (const [done, found] of missing.entries()) {
        if (halted.aborted) break;
        progress.value = { done, total: missing.length, what: `Measuring ${found.path}` };
        await measures.measure(page.siteId, found.path, size, found.digest);
      }
      if (missing.length) siteWalk.value = await data(api.GET("/api/sites/{site_id}/walk", { params }));
    } catch (error) {
      problem.value = detailOf(error);
    } finally {
      progress.value = null;
      stop = null;
    }
  }

  /** Really follow all jumps out of sight, page by page, and note where each ends. */
  async function walkAll(): Promise<void> {
    stop = new AbortController();
    problem.value = "";
    const goals = all.value.filter((landing) => landing.scroll !== null && landing.verdict !== "unseen");
    const byPage = new Map<string, LandingView[]>();
    for (const landing of goals) byPage.set(landing.to_page, [...(byPage.get(landing.to_page) ?? []), landing]);
    const ends = new Map<string, number>();
    let before = 0;
    try {
      for (const [path, landings] of byPage) {
        const fragments = [...new Set(landings.map((landing) => landing.fragment))];
        const heard = (done: number) =>
          (progress.value = { done: before + done, total: goals.length, what: `Walking ${path}` });
        heard(0);
        const address = previewAddress(page.siteId, path, measures.window, String(Date.now()));
        const found = await tryJumps(address, measures.window, fragments, heard, stop.signal);
        const byFragment = new Map(fragments.map((fragment, index) => [fragment, found[index]]));
        for (const landing of landings) ends.set(keyOfLanding(landing), byFragment.get(landing.fragment) ?? NaN);
        before += fragments.length;
      }
      tried.value = ends;
    } catch (error) {
      if (!(error instanceof DOMException)) problem.value = detailOf(error);
    } finally {
      progress.value = null;
      stop = null;
    }
  }

  const halt = () => stop?.abort();

  function back(): void {
    if (trail.value.length) backTurn.value++;
  }

  watch(
    () => [measures.view?.digest, measures.window],
    () => (tried.value = new Map()),
  );
  watch(
    () => page.path,
    (path) => {
      const walked = step.value && [step.value.page, step.value.to_page].includes(path);
      if (!walked && path !== abroad.value?.path) abroad.value = null; // the author went elsewhere
    },
  );
  watch(scope, (to) => {
    if (to === "site") void loadSite();
  });
  watch(
    () => [measures.view],
    () => {
      if (scope.value === "site" && measures.measured && siteWalk.value) void loadSite();
    },
  );

  return {
    exact,
    scope,
    shown,
    steps,
    query,
    worstFirst,
    all,
    of,
    at,
    step,
    chosen,
    turn,
    backTurn,
    trail,
    landed,
    top,
    wish,
    tried,
    progress,
    problem,
    troubles,
    follow,
    go,
    goTrouble,
    back,
    walkAll,
    halt,
    loadSite,
  };
});
