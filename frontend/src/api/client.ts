/** The way to the server: types from its own description, data or a problem as values. */
import createClient from "openapi-fetch";
import { authorHeader } from "./author";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type SiteEntry = Schemas["SiteEntry"];
export type SiteView = Schemas["SiteView"];
export type PageSummary = Schemas["PageSummary"];
export type PagesView = Schemas["PagesView"];
export type ArrivingView = Schemas["ArrivingView"];
export type ArrivingPage = Schemas["ArrivingPage"];
export type FileView = Schemas["FileView"];
export type PageLinks = Schemas["PageLinks"];
export type RuleCount = Schemas["RuleCount"];
export type SaidCount = Schemas["SaidCount"];
export type MergedDraft = Schemas["MergedDraft"];
export type MergedPiece = Schemas["MergedPiece"];
export type WaitView = Schemas["WaitView"];
export type ChangesView = Schemas["ChangesView"];
export type Kept = Schemas["Kept"];
export type Shortening = Schemas["Shortening"];
export type PageView = Schemas["PageView"];
export type SectionView = Schemas["SectionView"];
export type LinkView = Schemas["LinkView"];
export type FindingView = Schemas["FindingView"];
export type PageIndex = Schemas["PageIndex"];
export type PlannedChange = Schemas["PlannedChange"];
export type PlannedFile = Schemas["PlannedFile"];
export type ChangeEntry = Schemas["ChangeEntry"];
export type Intake = Schemas["Intake"];
export type Skipped = Schemas["Skipped"];
export type Addresses = Schemas["SectionAddresses"];
export type StructureView = Schemas["StructureView"];
export type LookalikeView = Schemas["LookalikeView"];
export type MissingView = Schemas["MissingView"];
export type RepairView = Schemas["RepairView"];
export type Judgement = Schemas["Judgement"];
export type Place = Schemas["Place"];
export type BlockView = Schemas["BlockView"];
export type Region = Schemas["Region"];
export type RegionsView = Schemas["RegionsView"];
export type RegionsBody = Schemas["RegionsBody"];
export type SiteSettings = Schemas["SiteSettings"];
export type SpokenHeading = Schemas["SpokenHeading"];
export type ContentsView = Schemas["ContentsView"];
export type EntryView = Schemas["EntryView"];
export type HandmadeView = Schemas["HandmadeView"];
export type OfferView = Schemas["OfferView"];
export type OriginView = Schemas["OriginView"];
export type GoalView = Schemas["GoalView"];
export type HeadView = Schemas["HeadView"];
export type HeadsView = Schemas["HeadsView"];
export type SiteNavigation = Schemas["SiteNavigation"];
export type MapView = Schemas["MapView"];
export type MapDrawing = Schemas["MapDrawing"];
export type MapNode = Schemas["MapNode"];
export type SectionMap = Schemas["SectionMap"];
export type MapPage = Schemas["MapPage"];
export type MapLinks = Schemas["MapLinks"];
export type LinkRowView = Schemas["LinkRow"];
export type KeptRecipe = Schemas["KeptRecipe"];
export type FolderView = Schemas["FolderView"];
export type ConflictView = Schemas["ConflictView"];
export type TargetView = Schemas["TargetView"];
export type PublishPlan = Schemas["PublishPlan"];
export type CommitView = Schemas["Commit"];
export type LiveView = Schemas["LiveView"];
export type Published = Schemas["Published"];
export type SharedView = Schemas["SharedView"];
export type AddressView = Schemas["AddressView"];
export type LinkState = Schemas["LinkState"];
export type GoalsView = Schemas["GoalsView"];
export type PointerView = Schemas["PointerView"];
export type StyleView = Schemas["StyleView"];
export type GeometryBody = Schemas["GeometryBody"];
export type MeasureView = Schemas["MeasureView"];
export type StretchView = Schemas["StretchView"];
export type LandingView = Schemas["LandingView"];
export type NamedWindow = Schemas["NamedWindow"];
export type WindowSummary = Schemas["WindowSummary"];
export type SiteWalk = Schemas["SiteWalk"];
export type Window = Schemas["Window"];
export type LandingFixesView = Schemas["LandingFixesView"];
export type CompareView = Schemas["CompareView"];
export type PairView = Schemas["PairView"];
export type RevisionView = Schemas["RevisionView"];
export type Limits = Schemas["Limits"];
export type ChecksView = Schemas["ChecksView"];
export type RuleView = Schemas["RuleView"];
export type AsideView = Schemas["AsideView"];
export type PartsView = Schemas["PartsView"];
export type PartView = Schemas["PartView"];
export type WholeSectionView = Schemas["WholeSectionView"];
export type CutPlaceView = Schemas["CutPlaceView"];
export type ProposalView = Schemas["ProposalView"];
export type SeriesView = Schemas["SeriesView"];
export type StageView = Schemas["StageView"];
export type Term = Schemas["TermView"];
export type Operation = NonNullable<
  paths["/api/sites/{site_id}/plans"]["post"]["requestBody"]
>["content"]["application/json"];

/** Why a request was refused, in the server's own words (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
  ) {
    super(detail);
  }
}

export const api = createClient<paths>({ baseUrl: "/" });
api.use({
  onRequest({ request }) {
    request.headers.set("x-signpost-author", authorHeader());
  },
  onResponse({ response }) {
    if (response.status === 401) location.assign(`/sign-in?to=${encodeURIComponent(location.pathname)}`);
  },
});

/** Return the data of an answer, or throw its problem. */
export async function data<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let found;
  try {
    found = await answer;
  } catch {
    throw new Problem(0, "The server does not answer. Is ./start still running? Nothing you typed is lost.");
  }
  if (!found.response.ok) throw new Problem(found.response.status, detailOf(found.error));
  return found.data as T;
}

/** How far long work has come. */
export interface Told {
  what: string;
  done: number;
  total: number;
}

/** Return what long work found, told meanwhile how far it has come; or throw its problem. */
export async function told<T>(
  answer: Promise<{ data?: unknown; error?: unknown; response: Response }>,
  tell: (told: Told) => void,
): Promise<T> {
  const body = (await data(answer)) as ReadableStream<Uint8Array>;
  const reader = body.pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>).getReader();
  let kept = "";
  for (;;) {
    const { done, value } = await reader.read();
    const lines = (kept + (value ?? "")).split("\n");
    kept = lines.pop() ?? "";
    for (const line of lines) {
      const said = JSON.parse(line) as { told?: Told; found?: T; problem?: { status: number; detail: string } };
      if (said.problem) throw new Problem(said.problem.status, said.problem.detail);
      if (said.told) tell(said.told);
      else return said.found as T;
    }
    if (done) throw new Problem(0, "The connection to the server broke. Nothing was written; try again.");
  }
}

/** Return the words of a problem, whatever came. */
export function detailOf(error: unknown): string {
  if (error instanceof Error) return error.message;
  if (typeof error === "object" && error !== null && "detail" in error) return String(error.detail);
  return "The server answered with something that cannot be read.";
}
