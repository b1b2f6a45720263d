/** How a site is checked: rules on and off, what is set aside. */
import { defineStore } from "pinia";
import { ref, shallowRef } from "vue";
import { api, data, detailOf, type AsideView, type ChecksView, type FindingView, type Schemas } from "../api/client";

export type Scope = Schemas["Scope"];
export type ChecksBody = Schemas["ChecksBody"];

export const useChecks = defineStore("checks", () => {
  const view = shallowRef<ChecksView | null>(null);
  const problem = ref("");

  async function attempt(does: () => Promise<void>): Promise<boolean> {
    problem.value = "";
    try {
      await does();
    } catch (error) {
      problem.value = detailOf(error);
    }
    return problem.value === "";
  }

  const load = (siteId: string) =>
    attempt(async () => {
      view.value = await data(api.GET("/api/sites/{site_id}/checks", { params: { path: { site_id: siteId } } }));
    });

  const save = (siteId: string, body: ChecksBody) =>
    attempt(async () => {
      view.value = await data(
        api.PUT("/api/sites/{site_id}/checks", { params: { path: { site_id: siteId } }, body }),
      );
    });

  /** Set a finding aside, or all of its rule on the page or the site. */
  const setAside = (siteId: string, finding: FindingView, scope: Scope, reason: string) =>
    attempt(async () => {
      const body = { page: finding.page, rule: finding.rule, start: finding.start, scope, reason };
      await data<unknown>(api.POST("/api/sites/{site_id}/aside", { params: { path: { site_id: siteId } }, body }));
    });

  const takeBack = (siteId: string, aside: AsideView) =>
    attempt(async () => {
      const body = { rule: aside.rule, page: aside.page, words: aside.words };
      const params = { path: { site_id: siteId } };
      await data<unknown>(api.POST("/api/sites/{site_id}/aside/taken-back", { params, body }));
      view.value = await data(api.GET("/api/sites/{site_id}/checks", { params }));
    });

  return { view, problem, load, save, setAside, takeBack };
});
