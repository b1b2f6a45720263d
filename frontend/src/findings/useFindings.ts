/** What is asked of findings, on a page's desk and on the site's. */
import type { FindingView } from "../api/client";
import { useChecks, type Scope } from "../stores/checks";
import { usePage } from "../stores/page";
import { useSite } from "../stores/site";
import { useTray } from "../stores/tray";

/** `anyPage` is the page that an operation on the whole site is asked of; "" where findings are those of one page. */
export function useFindings(siteId: () => string, anyPage: () => string) {
  const checks = useChecks();
  const page = usePage();
  const site = useSite();
  const tray = useTray();

  /** Fix one finding, all of a rule or of a cause, or with null all that need no question. */
  function fix(rule: string | null, finding: FindingView | null, choice: number | null, cause?: string): void {
    const everywhere = anyPage() !== "" && !finding;
    const at = finding?.page ?? (anyPage() || page.path);
    void tray.propose({ operation: "fix", page: at, rule, start: finding?.start ?? null, choice, cause, everywhere });
  }

  async function setAside(finding: FindingView, scope: Scope, reason: string): Promise<void> {
    const done = await checks.setAside(siteId(), finding, scope, reason);
    tray.problem = checks.problem;
    if (!done) return;
    await readAgain();
    tray.notice = `Set aside: ${finding.title}. “Rules and set aside…” takes it back.`;
  }

  /** Read the findings again, as the site is checked now. */
  async function readAgain(): Promise<void> {
    await Promise.all([page.reload(), site.load(siteId())]);
  }

  function writeFile(): void {
    void tray.propose({ operation: "site-file", page: anyPage() || page.path });
  }

  return { fix, setAside, readAgain, writeFile };
}
