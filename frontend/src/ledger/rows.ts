/** The rows of the ledger: the sections, and what a stage of work shows between them. */
import type { LinkView, LookalikeView, MissingView, OfferView, PageView, SectionView } from "../api/client";
import type { Stage } from "../stores/page";

export type Row =
  | { kind: "section"; section: SectionView }
  | { kind: "lookalike"; found: LookalikeView }
  | { kind: "missing"; found: MissingView }
  | { kind: "link"; link: LinkView }
  | { kind: "offer"; offer: OfferView };
/** What of a section is edited in its row. */
export type Column = "words" | "identifier" | "entry" | "better";
export type LinksShown = "all" | "offers" | "broken";

export function keyOf(row: Row): string {
  if (row.kind === "section") return `section-${row.section.index}`;
  if (row.kind === "link") return `link-${row.link.start}`;
  if (row.kind === "offer") return `offer-${row.offer.start}-${row.offer.section}`;
  return `${row.kind}-${row.found.line}-${row.found.text}`;
}

/** What a row between the sections is about. */
export function aboutOf(row: Exclude<Row, { kind: "section" }>): { start: number; line: number } {
  if (row.kind === "link") return row.link;
  return row.kind === "offer" ? row.offer : row.found;
}

/** The links in the page's own text, but for those that only lead back to its top. */
export const ownLinks = (page: PageView): LinkView[] =>
  page.links.filter(
    (link) => !link.in_furniture && !link.made && !(link.to_page === page.path && link.to_section === -1),
  );

export function rowsOf(page: PageView, stage: Stage, shown: LinksShown): Row[] {
  const sections = page.sections.map((section): Row => ({ kind: "section", section }));
  if (stage === "jumps") return withJumps(page, sections, shown);
  return stage === "headings" ? withFound(page, sections) : sections;
}

/**
 * The links and offers of each section, below it in the order of the source. Where only some of them are shown, only
 * the sections that have such stay, or all where none has.
 */
function withJumps(page: PageView, sections: Row[], shown: LinksShown): Row[] {
  const links = shown === "offers" ? [] : ownLinks(page).filter((link) => shown === "all" || link.resolves === false);
  const offers = shown === "broken" ? [] : page.navigation.offers;
  const offered = new Set(offers.map((offer) => offer.start));
  const homes = new Map<number, { at: number; row: Row }[]>();
  const add = (home: number, at: number, row: Row) => homes.set(home, [...(homes.get(home) ?? []), { at, row }]);
  for (const link of links) if (!offered.has(link.start)) add(link.section, link.start, { kind: "link", link });
  for (const offer of offers) add(offer.home, offer.start, { kind: "offer", offer });
  const below = (home: number) => (homes.get(home) ?? []).sort((a, b) => a.at - b.at).map((found) => found.row);
  const all = shown === "all" || !homes.size;
  return [...below(-1), ...sections.flatMap((row, index) => (all || homes.has(index) ? [row, ...below(index)] : []))];
}

/** What looks like a heading, and where one is missing, each before the section that it is before. */
function withFound(page: PageView, sections: Row[]): Row[] {
  const { lookalikes, missing } = page.structure;
  const extras = [
    ...lookalikes.map((found): Row & { found: LookalikeView } => ({ kind: "lookalike", found })),
    ...missing.map((found): Row & { found: MissingView } => ({ kind: "missing", found })),
  ].sort((a, b) => a.found.line - b.found.line);
  return [...sections, null].flatMap((row, at) => [
    ...extras.filter((extra) => extra.found.before === at),
    ...(row ? [row] : []),
  ]);
}
