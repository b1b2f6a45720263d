/** What there is to say of an identifier while it is typed. */
import { ref, watch, type Ref } from "vue";
import { detailOf, type Judgement } from "../api/client";
import { useChoices } from "../stores/choices";

/** How long typing pauses before it is judged, in milliseconds. */
const PAUSE = 120;

/** Judge `name`; a later answer never gives way to an earlier one. */
export function useJudgement(name: Ref<string>, about: () => { own: string; words: string }) {
  const choices = useChoices();
  const judgement = ref<Judgement | null>(null);
  let asked = 0;

  /** Judge what is typed at once; null where nothing changed. */
  async function settle(): Promise<Judgement | null> {
    const mine = ++asked;
    const { own, words } = about();
    let found: Judgement | null = null;
    if (name.value.trim() !== own || !own) {
      try {
        found = await choices.judge(name.value.trim(), own, words);
      } catch (error) {
        found = { verdict: "refused", message: detailOf(error), suggestion: null };
      }
    }
    if (mine === asked) judgement.value = found;
    return found;
  }

  watch(
    name,
    (_typed, _before, onCleanup) => {
      const timer = window.setTimeout(() => void settle(), PAUSE);
      onCleanup(() => window.clearTimeout(timer));
    },
    { immediate: true },
  );

  return { judgement, settle };
}
