import { createRouter, createWebHistory } from "vue-router";

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: "/", name: "sites", component: () => import("./views/SitesView.vue") },
    { path: "/sites/:siteId", name: "site", component: () => import("./views/SiteDesk.vue"), props: true },
    {
      path: "/sites/:siteId/map",
      name: "map",
      component: () => import("./views/MapDesk.vue"),
      props: ({ params, query }) => ({ siteId: String(params.siteId), focus: String(query.focus ?? "") }),
    },
    {
      path: "/sites/:siteId/compare",
      name: "compare",
      component: () => import("./views/CompareDesk.vue"),
      props: ({ params, query }) => ({
        siteId: String(params.siteId),
        left: String(query.left ?? query.right ?? ""),
        leftRevision: String(query.lr ?? ""),
        right: String(query.right ?? query.left ?? ""),
        rightRevision: String(query.rr ?? ""),
      }),
    },
    {
      path: "/sites/:siteId/pages/:path(.+)",
      name: "page",
      component: () => import("./views/PageDesk.vue"),
      props: true,
    },
    { path: "/:rest(.*)", redirect: "/" },
  ],
});
