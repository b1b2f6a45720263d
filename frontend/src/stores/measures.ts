/** The page as it is in a reader's window: measured, and measured again by itself when its page changes. */
import { defineStore } from "pinia";
import { computed, ref, shallowRef } from "vue";
import {
  api,
  data,
  detailOf,
  Problem,
  type Limits,
  type MeasureView,
  type NamedWindow,
  type StretchView,
  type Window,
  type WindowSummary,
} from "../api/client";
import { measureAt, previewAddress } from "../measuring/frame";
import { usePage } from "./page";

const USUAL: Window = { width: 440, height: 560, text_size: 100 };
/** Where the window that was chosen last is remembered, by site. */
const REMEMBERED = "signpost-window-";

const sizeOf = (size: Window) => ({ width: size.width, height: size.height, text_size: size.text_size });
export const sameWindow = (a: Window, b: Window): boolean =>
  a.width === b.width && a.height === b.height && a.text_size === b.text_size;

export const useMeasures = defineStore("measures", () => {
  const siteId = ref("");
  const path = ref("");
  const windows = shallowRef<NamedWindow[]>([]);
  const limits = shallowRef<Limits>({ least_words: 0, most_words: 0, most_windows: 0 });
  const window_ = shallowRef<Window>(USUAL); // that the walk, the road and all lengths are for
  const view = shallowRef<MeasureView | null>(null);
  const beside = shallowRef<WindowSummary[]>([]);
  const measuring = ref(false);
  const problem = ref("");
  let asked = 0;
  let wanted = 0; // by how many the other windows and pages are looked at

  const stretches = computed(
    () => new Map<number, StretchView>((view.value?.stretches ?? []).map((found) => [found.index, found])),
  );
  const measured = computed(() => view.value?.state === "measured");

  /** Read what is known of a page, and measure what is not; after that, in the site's other windows too. */
  async function load(site: string, page: string): Promise<void> {
    const mine = ++asked;
    if (site !== siteId.value) await openSite(site);
    if (page !== path.value || site !== siteId.value) view.value = null;
    siteId.value = site;
    path.value = page;
    problem.value = "";
    const current = () => mine === asked;
    try {
      const size = window_.value;
      let found = await read(site, page, size);
      if (!current()) return;
      if (found.path !== path.value) return;
      view.value = found;
      if (found.state !== "measured") {
        measuring.value = true;
        await measure(site, page, size, found.digest);
        found = await read(site, page, size);
        if (!current()) return;
        view.value = found;
      }
      measuring.value = false;
      if (wanted > 0) await measureAround(site, page, size, current);
    } catch (error) {
      if (!current()) return;
      problem.value = error instanceof Problem && error.status === 409 ? "" : detailOf(error);
    } finally {
      if (current()) measuring.value = false;
    }
  }

  /** Measure what a look at this page alone does not need. */
  async function measureAround(site: string, page: string, size: Window, current: () => boolean): Promise<void> {
    await measureGoals(site, page, size, current);
    if (current()) await measureBeside(site, page, current);
  }

  /** From here on the pages that links lead to are measured too, and the page in all windows; until it is called off. */
  function widen(): () => void {
    wanted++;
    if (wanted === 1 && view.value && !measuring.value) void reload();
    return () => wanted--;
  }

  async function openSite(site: string): Promise<void> {
    try {
      const found = await data(api.GET("/api/sites/{site_id}/windows", { params: { path: { site_id: site } } }));
      windows.value = found.windows;
      limits.value = found.limits;
    } catch (error) {
      problem.value = detailOf(error);
    }
    const kept = localStorage.getItem(REMEMBERED + site);
    const named = windows.value.find((found) => kept === JSON.stringify(sizeOf(found.window)));
    window_.value = named?.window ?? windows.value[0]?.window ?? USUAL;
    beside.value = [];
  }

  const read = (site: string, page: string, size: Window) =>
    data(
      api.GET("/api/sites/{site_id}/measure", {
        params: { path: { site_id: site }, query: { path: page, ...sizeOf(size) } },
      }),
    );

  async function measure(site: string, page: string, size: Window, digest: string): Promise<void> {
    const geometry = await measureAt(previewAddress(site, page, size, digest.slice(0, 12)), size);
    await data(
      api.PUT("/api/sites/{site_id}/measure", {
        params: { path: { site_id: site }, query: { path: page } },
        body: { digest, window: sizeOf(size), ...geometry },
      }),
    );
  }

  /** Measure the other pages that jump links of this one lead to. */
  async function measureGoals(site: string, page: string, size: Window, current: () => boolean): Promise<void> {
    const unknown = (view.value?.landings ?? []).filter(
      (landing) => landing.verdict === "unmeasured" && landing.to_page !== page,
    );
    const paths = [...new Set(unknown.map((landing) => landing.to_page))];
    for (const path_ of paths) {
      const { digest, state } = await read(site, path_, size);
      if (state !== "measured") await measure(site, path_, size, digest);
      if (!current()) return;
    }
    if (!paths.length) return;
    const found = await read(site, page, size);
    if (current()) view.value = found;
  }

  /** Bring the page's figures in all windows of the site up to date, one after another. */
  async function measureBeside(site: string, page: string, current: () => boolean): Promise<void> {
    const list = () =>
      data(api.GET("/api/sites/{site_id}/measures", { params: { path: { site_id: site }, query: { path: page } } }));
    let found = await list();
    if (!current()) return;
    beside.value = found;
    for (const { window: size, state } of found) {
      if (state === "measured") continue;
      const { digest } = await read(site, page, size);
      if (!current()) return;
      await measure(site, page, size, digest);
      if (!current()) return;
    }
    found = await list();
    if (current()) beside.value = found;
  }

  /** Measure pages of the site that were not yet, in the window that is chosen; say whether there were any. */
  async function measurePages(paths: readonly string[]): Promise<boolean> {
    const [site, size] = [siteId.value, window_.value];
    let some = false;
    for (const one of paths) {
      const { digest, state } = await read(site, one, size);
      if (state === "measured" || site !== siteId.value) continue;
      await measure(site, one, size, digest);
      some = true;
    }
    return some;
  }

  const reload = () => load(siteId.value, path.value);

  /** Look through another window. */
  async function choose(size: Window): Promise<void> {
    window_.value = size;
    localStorage.setItem(REMEMBERED + siteId.value, JSON.stringify(sizeOf(size)));
    await reload();
  }

  /** Keep the site's windows and limits; return what is wrong, or "". */
  async function save(wanted: { windows: NamedWindow[]; limits: Limits }): Promise<string> {
    try {
      const kept = await data(
        api.PUT("/api/sites/{site_id}/windows", { params: { path: { site_id: siteId.value } }, body: wanted }),
      );
      windows.value = kept.windows;
      limits.value = kept.limits;
      if (!kept.windows.some((found) => sameWindow(found.window, window_.value)))
        window_.value = kept.windows[0]?.window ?? USUAL;
      await reload();
      return "";
    } catch (error) {
      return detailOf(error);
    }
  }

  /** Leave the landing at a fragment as it is, or ask about it again. */
  async function settle(page: string, fragment: string, settled: boolean): Promise<void> {
    try {
      await data(
        api.PUT("/api/sites/{site_id}/settled", {
          params: { path: { site_id: siteId.value } },
          body: { path: page, fragment, settled },
        }),
      );
      await reload();
    } catch (error) {
      problem.value = detailOf(error);
    }
  }

  /** How much longer or shorter a page becomes, and how its landings change, with rules added to its style. */
  async function tryOut(size: Window, css: string): Promise<MeasureView> {
    const page = usePage();
    const { digest } = await read(siteId.value, page.path, size);
    const geometry = await measureAt(previewAddress(siteId.value, page.path, size, digest.slice(0, 12)), size, css);
    return data(
      api.POST("/api/sites/{site_id}/measure/trial", {
        params: { path: { site_id: siteId.value }, query: { path: page.path } },
        body: { digest, window: sizeOf(size), ...geometry },
      }),
    );
  }

  return {
    windows,
    limits,
    window: window_,
    view,
    stretches,
    measured,
    beside,
    measuring,
    problem,
    load,
    reload,
    widen,
    measure,
    measurePages,
    choose,
    save,
    settle,
    tryOut,
  };
});
