/** Findings in the source: underlined, with the reason and the fix at hand. */
import type { Diagnostic } from "@codemirror/lint";
import type { Text } from "@codemirror/state";
import type { FindingView } from "../api/client";
import { offsetOf } from "../text/positions";

const SEVERITIES: Record<string, Diagnostic["severity"]> = { error: "error", warning: "warning", advice: "info" };
/** How many ways to fix a finding are offered in the source; its row in the ledger has all. */
const MOST = 3;
const LONGEST = 48; // letters of a choice

export type FixFinding = (finding: FindingView, choice: number | null) => void;

/** Return what is underlined for findings; one without a stretch of its own is its whole line. */
export function diagnosticsOf(doc: Text, findings: readonly FindingView[], fix: FixFinding): Diagnostic[] {
  return findings.map((finding) => {
    const from = offsetOf(doc, finding.line, finding.column);
    const line = doc.lineAt(from);
    const end = offsetOf(doc, finding.end_line, finding.end_column);
    return {
      from,
      to: Math.max(end > from ? Math.min(end, line.to) : line.to, from),
      severity: SEVERITIES[finding.severity] ?? "info",
      source: finding.title,
      message: finding.message,
      actions: waysOf(finding).map(([words, choice]) => ({ name: words, apply: () => fix(finding, choice) })),
    };
  });
}

/** Return the ways to fix a finding, as words of a button and the number of the choice. */
export function waysOf(finding: FindingView): [string, number | null][] {
  if (finding.fixable) return [["Fix", null]];
  return finding.choices.slice(0, MOST).map((words, index) => [shortened(words), index]);
}

const shortened = (words: string) => (words.length > LONGEST ? `${words.slice(0, LONGEST - 1)}…` : words);
