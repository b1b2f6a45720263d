/** What the desk asks while its author chooses: judgements, places, blocks, regions, settings. */
import { defineStore } from "pinia";
import {
  api,
  data,
  type BlockView,
  type LandingFixesView,
  type GoalsView,
  type Judgement,
  type OriginView,
  type Place,
  type PointerView,
  type RegionsView,
  type RegionsBody,
  type SiteSettings,
  type SpokenHeading,
  type StyleView,
  type Term,
} from "../api/client";
import { usePage } from "./page";

export type StyleSettings = StyleView["style"];

export const useChoices = defineStore("choices", () => {
  const page = usePage();
  const site = () => ({ site_id: page.siteId });
  const here = () => ({ path: site(), query: { path: page.path } });

  /** Judge an identifier that is being typed; `own` is the one its element has, `words` what a suggestion is made of. */
  const judge = (name: string, own: string, words: string): Promise<Judgement> =>
    data(
      api.GET("/api/sites/{site_id}/judgement", {
        params: { path: site(), query: { path: page.path, name, own, words: words.slice(0, 400) } },
      }),
    );

  /** The elements that can be pointed to at a start tag, or at a line and a column; innermost first. */
  const placesAt = (at: { start?: number; line?: number; column?: number }): Promise<Place[]> =>
    data(api.GET("/api/sites/{site_id}/places", { params: { path: site(), query: { path: page.path, ...at } } }));

  const blocks = (): Promise<BlockView[]> => data(api.GET("/api/sites/{site_id}/blocks", { params: here() }));
  const spokenHeadings = (): Promise<SpokenHeading[]> =>
    data(api.GET("/api/sites/{site_id}/spoken-headings", { params: here() }));
  const regions = (): Promise<RegionsView> => data(api.GET("/api/sites/{site_id}/regions", { params: here() }));
  const settings = (): Promise<SiteSettings> =>
    data(api.GET("/api/sites/{site_id}/settings", { params: { path: site() } }));

  /** Where a jump link on the page may lead, found by words. */
  const goals = (query: string): Promise<GoalsView> =>
    data(api.GET("/api/sites/{site_id}/goals", { params: { path: site(), query: { path: page.path, query } } }));

  /** What a jump link would be made of: words within the element at a start tag, or that element itself. */
  const originOfWords = (element: number, words = "", occurrence = 0): Promise<OriginView> =>
    data(
      api.GET("/api/sites/{site_id}/origin/words", {
        params: { path: site(), query: { path: page.path, element, words, occurrence } },
      }),
    );

  const originAt = (place: {
    line: number;
    column: number;
    end_line: number;
    end_column: number;
  }): Promise<OriginView> =>
    data(
      api.GET("/api/sites/{site_id}/origin/place", {
        params: { path: site(), query: { path: page.path, ...place } },
      }),
    );

  const pointers = (section: number): Promise<PointerView[]> =>
    data(api.GET("/api/sites/{site_id}/pointers", { params: { path: site(), query: { path: page.path, section } } }));

  const terms = (text: string): Promise<Term[]> => data(api.POST("/api/terms", { body: { text } }));

  /** The terms of a file: lines, CSV, TSV or XLSX. */
  function termsOfFile(file: File): Promise<Term[]> {
    const form = new FormData();
    form.append("file", file);
    return data(
      api.POST("/api/terms/file", {
        body: form as unknown as { file: string },
        bodySerializer: (body) => body as unknown as FormData,
      }),
    );
  }

  const style = (): Promise<StyleView> => data(api.GET("/api/sites/{site_id}/style", { params: { path: site() } }));

  const fixes = (): Promise<LandingFixesView> =>
    data(api.GET("/api/sites/{site_id}/landing-fixes", { params: { path: site(), query: { path: page.path } } }));

  /** The rules of a reading style, for a look at what it does. */
  const styleText = ({ parts, accent, wash, bar, side, narrow, below, look }: StyleSettings): Promise<string> =>
    data(
      api.GET("/api/reading-style", {
        params: { query: { parts, accent, wash, look, lengths: [bar, side, narrow, below] } },
      }),
    );

  async function saveSettings(body: SiteSettings): Promise<void> {
    await data(api.PUT("/api/sites/{site_id}/settings", { params: { path: site() }, body }));
    await page.reload();
  }

  async function sayRegions(body: RegionsBody): Promise<void> {
    await data<unknown>(api.PUT("/api/sites/{site_id}/regions", { params: { path: site() }, body }));
    await page.reload();
  }

  /** Remember that a look-alike is not a heading, or offer it again. */
  async function refuse(key: string, refused: boolean): Promise<void> {
    await data<unknown>(
      api.PUT("/api/sites/{site_id}/refusals", {
        params: { path: site() },
        body: { path: page.path, key, refused },
      }),
    );
    await page.reload();
  }

  return {
    terms,
    termsOfFile,
    style,
    fixes,
    styleText,
    goals,
    originOfWords,
    originAt,
    pointers,
    judge,
    placesAt,
    blocks,
    spokenHeadings,
    regions,
    settings,
    saveSettings,
    sayRegions,
    refuse,
  };
});
