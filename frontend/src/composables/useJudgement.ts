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

  watch(
    name,
    (typed, _before, onCleanup) => {
      const mine = ++asked;
      const { own, words } = about();
      if (typed === own && own) {
        judgement.value = null;
        return;
      }
      const timer = window.setTimeout(async () => {
        try {
          const found = await choices.judge(typed.trim(), own, words);
          if (mine === asked) judgement.value = found;
        } catch (error) {
          if (mine === asked) judgement.value = { verdict: "refused", message: detailOf(error), suggestion: null };
        }
      }, PAUSE);
      onCleanup(() => window.clearTimeout(timer));
    },
    { immediate: true },
  );

  return judgement;
}
