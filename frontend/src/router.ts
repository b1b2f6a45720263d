import { createRouter, createWebHistory } from "vue-router";

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: "/", name: "sites", component: () => import("./views/SitesView.vue") },
    { path: "/sites/:siteId", name: "site", component: () => import("./views/SiteDesk.vue"), props: true },
    { path: "/sites/:siteId/pages/:path(.+)", name: "page", component: () => import("./views/PageDesk.vue"), props: true },
    { path: "/:rest(.*)", redirect: "/" },
  ],
});
