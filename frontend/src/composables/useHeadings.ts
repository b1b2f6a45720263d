/** What is done to headings: each asks for a plan, which then waits in the tray. */
import { useChoices } from "../stores/choices";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import { detailOf, type LookalikeView, type SectionView } from "../api/client";

export type Step = "up" | "down" | "in" | "out";
export type Where = "before" | "after" | "into";

export function useHeadings() {
  const page = usePage();
  const tray = useTray();
  const choices = useChoices();

  /** The sections that a key works on: those that are marked, else the selected one. */
  function chosen(): number[] {
    if (page.marked.size) return [...page.marked].sort((a, b) => a - b);
    return page.selected >= 0 ? [page.selected] : [];
  }

  function setLevel(level: number, sections = chosen()): void {
    if (!sections.length) return;
    const levels = Object.fromEntries(sections.map((index) => [index, level]));
    void tray.propose({ operation: "levels", page: page.path, levels, with_subsections: page.wholeSections });
  }

  /** Lower the chosen headings by a level, or raise them where `by` is negative. */
  function shift(by: number, sections = chosen()): void {
    if (!sections.length) return;
    void tray.propose({ operation: "shift", page: page.path, sections, by, with_subsections: page.wholeSections });
  }

  function move(direction: Step, section = page.selected): void {
    if (section >= 0) void tray.propose({ operation: "move", page: page.path, section, direction });
  }

  function drop(section: number, target: number, where: Where): void {
    if (section !== target) void tray.propose({ operation: "drop", page: page.path, section, target, where });
  }

  function setWords(section: SectionView, words: string): void {
    if (words.trim() && words !== section.text)
      void tray.propose({ operation: "words", page: page.path, section: section.index, words });
  }

  /** The level that a look-alike would take: the one its author chose, else the one it was offered. */
  const levelOf = (found: LookalikeView): number => page.levels.get(found.text) ?? found.level;

  function setLookalikeLevel(found: LookalikeView, level: number): void {
    page.levels = new Map(page.levels).set(found.text, level);
  }

  function accept(found: readonly LookalikeView[]): void {
    if (!found.length) return;
    const levels = Object.fromEntries(found.map((one) => [one.index, levelOf(one)]));
    void tray.propose({ operation: "promote", page: page.path, levels });
  }

  /** Remember that a line is not a heading, or offer it again. */
  async function refuse(key: string, refused = true): Promise<void> {
    try {
      await choices.refuse(key, refused);
      tray.notice = refused
        ? `“${key}” will not be offered as a heading again.`
        : `“${key}” is offered as a heading again.`;
    } catch (error) {
      tray.problem = detailOf(error);
    }
  }

  return { chosen, levelOf, setLookalikeLevel, setLevel, shift, move, drop, setWords, accept, refuse };
}
