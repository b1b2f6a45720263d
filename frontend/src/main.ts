import "@fontsource-variable/figtree";
import "@fontsource-variable/literata";
import "@fontsource-variable/jetbrains-mono";
import "element-plus/es/components/base/style/css";
import "element-plus/es/components/message/style/css";
import "element-plus/es/components/message-box/style/css";
import "./styles/tokens.css";
import "./styles/base.css";
import { createPinia } from "pinia";
import { createApp } from "vue";
import App from "./App.vue";
import { beginTheme } from "./composables/useTheme";
import { router } from "./router";

beginTheme();
createApp(App).use(createPinia()).use(router).mount("#app");
