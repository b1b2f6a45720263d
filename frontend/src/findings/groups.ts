/** Findings by their rule, and which of them came with the last change. */
import type { FindingView } from "../api/client";

export interface RuleFindings {
  rule: string;
  title: string;
  severity: string;
  rank: number; // how much such findings hurt readers: 0 most
  findings: FindingView[];
  pressed: number; // of them that one press fixes
  chosen: number; // of them that are fixed by a choice
}

const RANKS = ["error", "warning", "advice"];

type Grave = Pick<FindingView, "severity">;
const bySeverity = (a: Grave, b: Grave) => RANKS.indexOf(a.severity) - RANKS.indexOf(b.severity);

/** Group findings by rule: the gravest first, what hurts readers most, then those of which there are most. */
export function groupFindings(findings: readonly FindingView[]): RuleFindings[] {
  const groups = new Map<string, RuleFindings>();
  for (const one of findings) {
    const key = `${one.rule} ${one.severity}`;
    const group = groups.get(key) ?? {
      rule: one.rule,
      title: one.title,
      severity: one.severity,
      rank: one.rank,
      findings: [],
      pressed: 0,
      chosen: 0,
    };
    group.findings.push(one);
    if (one.fixable) group.pressed++;
    else if (one.choices.length) group.chosen++;
    groups.set(key, group);
  }
  return [...groups.values()].sort(
    (a, b) => bySeverity(a, b) || a.rank - b.rank || b.findings.length - a.findings.length,
  );
}

/** Return findings by how much they matter, each kind in its own order. */
export const gravestFirst = (findings: readonly FindingView[]): FindingView[] =>
  [...findings].sort((a, b) => bySeverity(a, b) || a.rank - b.rank);

/** What a finding says, but for the lines that it names, which edits elsewhere move. */
const keyOf = (one: FindingView) => `${one.page} ${one.rule} ${one.message.replace(/line \d+/g, "line")}`;

/** Return the findings that were not among the earlier ones. */
export function newFindings(now: readonly FindingView[], before: readonly FindingView[]): Set<FindingView> {
  const left = new Map<string, number>();
  for (const one of before) left.set(keyOf(one), (left.get(keyOf(one)) ?? 0) + 1);
  const found = new Set<FindingView>();
  for (const one of now) {
    const count = left.get(keyOf(one)) ?? 0;
    if (count) left.set(keyOf(one), count - 1);
    else found.add(one);
  }
  return found;
}
