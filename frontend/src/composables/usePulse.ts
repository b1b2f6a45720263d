/** What others do to the open site, told as it happens: the desk reads it again, and what is being typed stays. */
import { useDocumentVisibility, useIntervalFn } from "@vueuse/core";
import { ElMessage } from "element-plus";
import { watch } from "vue";
import { api, data } from "../api/client";
import { WINDOW } from "../api/author";

/** How often it is asked, in milliseconds. */
const PACE = 3000;

/** Ask what was done last to a site; `refresh` reads it again once somebody else did something. */
export function usePulse(siteId: () => string, refresh: (elsewhere: boolean) => Promise<void>): void {
  const visible = useDocumentVisibility();
  let known = -1; // the site's revision as it is shown here
  let asking = false;

  async function ask(): Promise<void> {
    const site = siteId();
    if (asking || !site || visible.value === "hidden") return;
    asking = true;
    try {
      const found = await data(api.GET("/api/sites/{site_id}/pulse", { params: { path: { site_id: site } } }));
      const isNews = known >= 0 && found.revision !== known && found.window !== WINDOW;
      known = found.revision;
      if (site !== siteId() || !isNews) return;
      await refresh(true);
      ElMessage({
        message: `${found.author || "Someone in another window"} ${found.deed}.`,
        type: "info",
        duration: 6000,
      });
    } catch {
      // the next request of the desk says what is wrong
    } finally {
      asking = false;
    }
  }

  useIntervalFn(() => void ask(), PACE, { immediateCallback: true });
  watch(visible, () => void ask());
  watch(siteId, () => (known = -1));
}
