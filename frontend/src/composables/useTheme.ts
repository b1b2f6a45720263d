/** Light or dark: as the system says until the author says otherwise. */
import { readonly, ref } from "vue";

export type Theme = "light" | "dark";

const KEY = "signpost-theme";
const theme = ref<Theme>("light");

/** Take up the theme chosen earlier, or the system's. */
export function beginTheme(): void {
  const kept = localStorage.getItem(KEY);
  const dark = matchMedia("(prefers-color-scheme: dark)").matches;
  set(kept === "light" || kept === "dark" ? kept : dark ? "dark" : "light");
}

function set(to: Theme): void {
  theme.value = to;
  document.documentElement.dataset.theme = to;
}

export function useTheme() {
  const turn = () => {
    set(theme.value === "dark" ? "light" : "dark");
    localStorage.setItem(KEY, theme.value);
  };
  return { theme: readonly(theme), turn };
}
