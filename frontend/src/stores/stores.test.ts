/** The stores over answers that the server would give. */
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, test, vi } from "vitest";
import type { ChangeEntry } from "../api/client";

vi.mock("../measuring/frame", () => ({ measureAt: vi.fn(), previewAddress: vi.fn(), tryJumps: vi.fn() }));
vi.mock("element-plus", () => ({ ElMessage: vi.fn(), ElMessageBox: { confirm: vi.fn() } }));

/** How long something may take to come about, in milliseconds; no test is timed. */
const PATIENCE = 60_000;

const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
  removeItem: (key: string) => kept.delete(key),
  key: (at: number) => [...kept.keys()][at] ?? null,
  get length() {
    return kept.size;
  },
});
vi.stubGlobal("window", globalThis);
vi.stubGlobal(
  "EventSource",
  class {
    addEventListener(name: string, does: () => void) {
      if (name === "done") queueMicrotask(does); // the site is read at once
    }
    close() {}
  },
);

const { api } = await import("../api/client");
const { usePage } = await import("./page");
const { useDialogs } = await import("./dialogs");
const { useStages } = await import("./stages");
const { useTray } = await import("./tray");

const NO_STEP = { edits: null, form: "", code: "", start: null, line: 0 };
const stage = (name: string, progress: string, words = "", step = {}) => ({
  stage: name,
  progress,
  words,
  steps: [{ ...NO_STEP, ...step }],
});
const PAGE = {
  path: "a.html",
  revision: "r1",
  locked: null,
  lines: 3,
  sections: [
    { index: 0, level: 1, text: "T", identifier: "t" },
    { index: 1, level: 2, text: "A", identifier: null },
  ],
  findings: [],
  links: [],
  structure: { lookalikes: [], repairs: [], twice: [], missing: [] },
  navigation: { contents: [], handmade: [], offers: [] },
  stages: [
    stage("headings", "done"),
    stage("identifiers", "todo", "1 missing", { edits: { operation: "identify", page: "a.html", levels: [2] } }),
    stage("contents", "optional"),
  ],
};
const PLAN = {
  title: "Identifiers for 1 section",
  edits: 1,
  tag: "t1",
  kinds: [],
  files: [{ path: "a.html" }],
  notes: [],
};

const drafts = () => [...kept.keys()].filter((key) => key.startsWith("signpost-draft:")).length;
const answer = (data: unknown, status = 200) => ({
  data: status < 400 ? data : undefined,
  error: data,
  response: new Response(null, { status }),
});

let asked: { address: string; body: unknown }[] = [];
const answers = new Map<string, () => unknown>();

beforeEach(() => {
  kept.clear();
  asked = [];
  answers.clear();
  answers.set("/api/sites/{site_id}/page", () => answer(PAGE));
  answers.set("/api/sites/{site_id}/plans", () => answer(PLAN));
  setActivePinia(createPinia());
  const ask = (address: string, options: { body?: unknown }) => {
    asked.push({ address, body: options.body });
    return Promise.resolve(answers.get(address)?.() ?? answer([]));
  };
  vi.spyOn(api, "GET").mockImplementation(ask as never);
  vi.spyOn(api, "POST").mockImplementation(ask as never);
});

describe("the page", () => {
  test("what is typed is a draft, kept in the browser until it is saved or discarded", async () => {
    const page = usePage();
    await page.load("site", "a.html");
    page.type("<p>typed");
    expect(page.typing).toBe(true);
    expect(JSON.parse([...kept.values()].at(-1) ?? "{}")).toMatchObject({ text: "<p>typed", base: "r1" });
    answers.set("/api/sites/{site_id}/draft/merged", () => answer({ revision: "r2", text: "<p>typed", pieces: [] }));
    await page.settleDraft("<p>older"); // what was typed since stays, and goes on from what was saved
    expect(page.typing).toBe(true);
    expect(page.base).toBe("r2");
    expect(asked.at(-1)?.body).toEqual({ path: "a.html", text: "<p>typed", base: "r1", base_text: "<p>older" });
    await page.settleDraft("<p>typed");
    expect(page.typing).toBe(false);
    expect(drafts()).toBe(0);
  });

  test("what others save is brought together with what is typed, and the source is told", async () => {
    const page = usePage();
    await page.load("site", "a.html");
    page.type("<p>typed");
    answers.set("/api/sites/{site_id}/page", () => answer({ ...PAGE, revision: "r2" }));
    answers.set("/api/sites/{site_id}/draft/merged", () =>
      answer({ revision: "r2", text: "<p>theirs\n<p>typed", pieces: [] }),
    );
    await page.reloadFromElsewhere();
    expect([page.draft, page.base]).toEqual(["<p>theirs\n<p>typed", "r2"]);
    expect(page.came).toBeGreaterThan(0);
  });

  test("lines that both edited wait for a decision, and nothing is saved over them", async () => {
    const page = usePage();
    await page.load("site", "a.html");
    page.type("<p>typed");
    const disputed = { revision: "r2", text: null, pieces: [{ base: "", ours: "a", theirs: "b", merged: null }] };
    answers.set("/api/sites/{site_id}/page", () => answer({ ...PAGE, revision: "r2" }));
    answers.set("/api/sites/{site_id}/draft/merged", () => answer(disputed));
    await page.reload();
    expect([page.draft, page.base, page.disputed]).toEqual(["<p>typed", "r1", disputed]);
    page.goOnFrom("r2", "<p>both");
    expect([page.draft, page.base, page.disputed]).toEqual(["<p>both", "r2", null]);
  });

  test("a draft that was left is offered when its page is opened again, and on no other", async () => {
    const page = usePage();
    await page.load("site", "a.html");
    page.type("<p>left");
    await page.load("site", "b.html");
    expect(page.typing).toBe(false);
    expect(page.kept).toBeNull();
    await page.load("site", "a.html");
    expect(page.kept?.text).toBe("<p>left");
    await page.takeBack();
    expect(page.draft).toBe("<p>left");
    expect(drafts()).toBe(1);
    expect(page.kept).toBeNull();
  });

  test("a selection stays within the page", async () => {
    const page = usePage();
    await page.load("site", "a.html");
    page.select(99);
    expect(page.section?.text).toBe("A");
    page.select(-5);
    expect(page.selected).toBe(-1);
  });
});

describe("the tray", () => {
  const identify = { operation: "identify", page: "a.html", levels: [2] } as const;

  test("an operation is planned, and waits", async () => {
    await usePage().load("site", "a.html");
    const tray = useTray();
    expect(await tray.propose({ ...identify, levels: [2] })).toBe(true);
    expect(tray.waits).toBe(true);
    tray.drop();
    expect(tray.waits).toBe(false);
  });

  test("what was discarded can be had back", async () => {
    const tray = useTray();
    await tray.propose({ operation: "identify", page: "a.html", levels: [] });
    expect(tray.open).toBe(true); // the first edits of a kind are shown
    tray.discard();
    expect([tray.waits, tray.notice]).toEqual([false, "Discarded: Identifiers for 1 section."]);
    await tray.takeBack();
    expect([tray.waits, tray.open, tray.discarded]).toEqual([true, true, null]);
    tray.discard();
    await tray.propose({ operation: "identify", page: "a.html", levels: [] });
    expect([tray.open, tray.discarded]).toEqual([false, null]); // read once already
  });

  test("an operation that has nothing to do says so", async () => {
    answers.set("/api/sites/{site_id}/plans", () => answer({ ...PLAN, edits: 0, files: [] }));
    const tray = useTray();
    await tray.propose({ ...identify, levels: [2] });
    expect(tray.waits).toBe(false);
    expect(tray.notice).toBe("Nothing to change.");
  });

  test("a refusal is shown in the server's words", async () => {
    answers.set("/api/sites/{site_id}/plans", () => answer({ detail: "Choose another name." }, 422));
    const tray = useTray();
    expect(await tray.propose({ ...identify, levels: [2] })).toBe(false);
    expect(tray.problem).toBe("Choose another name.");
  });

  test.each([
    [true, 1],
    [false, 0],
  ])("what is typed is settled first (%s), or nothing is planned", async (settled, plans) => {
    const page = usePage();
    await page.load("site", "a.html");
    page.type("<p>typed");
    const tray = useTray();
    tray.settleTyped = () => Promise.resolve(settled);
    expect(await tray.propose({ ...identify, levels: [2] })).toBe(settled);
    expect(asked.filter((one) => one.address.endsWith("/plans"))).toHaveLength(plans);
  });

  test("planning can be stopped; what comes later is not shown", async () => {
    let finish: (value: unknown) => void = () => {};
    answers.set("/api/sites/{site_id}/plans", () => new Promise((done) => (finish = done)));
    const tray = useTray();
    const proposed = tray.propose({ ...identify, levels: [2] });
    await vi.waitFor(() => expect(asked).toHaveLength(1), PATIENCE);
    tray.stop();
    expect(tray.busy).toBe(false);
    finish(answer(PLAN));
    expect(await proposed).toBe(false);
    expect(tray.waits).toBe(false);
  });
});

describe("undoing", () => {
  const entry = { number: 3, title: "Contents", undone: false, can_turn: true, moves: {} } as unknown as ChangeEntry;

  test("it is said when the page was read again, and nothing else is asked meanwhile", async () => {
    const page = usePage();
    await page.load("site", "a.html");
    let finish: (value: unknown) => void = () => {};
    const read = answers.get("/api/sites/{site_id}/page")!;
    answers.set("/api/sites/{site_id}/page", () => new Promise((done) => (finish = done)));
    const tray = useTray();
    const turned = tray.turn(entry);
    await vi.waitFor(
      () => expect(asked.some((one) => one.address === "/api/sites/{site_id}/changes")).toBe(true),
      PATIENCE,
    );
    expect([tray.busy, tray.notice]).toEqual([true, "Undoing…"]);
    finish(read());
    await turned;
    expect([tray.busy, tray.notice]).toEqual([false, "Undone: Contents."]);
  });

  test("what is wrong with it stays readable after all was read again", async () => {
    answers.set("/api/sites/{site_id}/changes/{number}/undo", () => answer({ detail: "It was changed since." }, 409));
    await usePage().load("site", "a.html");
    const tray = useTray();
    await tray.turn(entry);
    expect([tray.problem, tray.notice]).toEqual(["It was changed since.", ""]);
  });
});

describe("the stages", () => {
  test("the next step is the first stage that has something left", async () => {
    const page = usePage();
    await page.load("site", "a.html");
    const stages = useStages();
    expect(stages.next?.[0]).toBe("identifiers");
    stages.goNext();
    await vi.waitFor(() => expect(useTray().waits).toBe(true), PATIENCE);
    expect(page.stage).toBe("identifiers");
    expect(asked.at(-1)?.body).toMatchObject({ operation: "identify", page: "a.html" });
  });

  test.each([
    ["error", "wrong", "findings"],
    ["warning", "todo", "findings"],
    ["advice", "optional", undefined],
  ])("findings are counted from one place; the worst is %s, so the stage is %s", async (severity, progress, next) => {
    const findings = [
      { start: 9, severity },
      { start: 1, severity: "advice" },
    ];
    const stages_ = [stage("findings", progress, "2 findings")];
    answers.set("/api/sites/{site_id}/page", () => answer({ ...PAGE, stages: stages_, findings }));
    await usePage().load("site", "a.html");
    const stages = useStages();
    expect(stages.states.get("findings")).toMatchObject({ progress, words: "2 findings" });
    expect(stages.findings.map((one) => one.start)).toEqual([1, 9]);
    expect(stages.next?.[0]).toBe(next);
  });

  const broken = (start: number, edits: unknown = null) => ({ ...NO_STEP, start, line: start, edits });

  async function withSteps(...steps: unknown[]) {
    const stages_ = [
      { ...stage("jumps", "wrong", `${steps.length} broken`), steps },
      stage("findings", "todo", "1 finding"),
    ];
    answers.set("/api/sites/{site_id}/page", () => answer({ ...PAGE, stages: stages_ }));
    const page = usePage();
    await page.load("site", "a.html");
    return { page, stages: useStages() };
  }

  test("what was shown and is left is passed by the next press, and comes again at the end", async () => {
    const { page, stages } = await withSteps(broken(4), broken(9));
    const seen = [];
    for (let press = 0; press < 5; press++) {
      stages.goNext();
      seen.push([page.stage, page.stage === "jumps" ? page.pointed?.start : null]);
    }
    expect(seen).toEqual([
      ["jumps", 4],
      ["jumps", 9],
      ["findings", null],
      ["jumps", 4],
      ["jumps", 9],
    ]);
  });

  test("one step is left for later by a press, and the next is shown", async () => {
    const { page, stages } = await withSteps(broken(4), broken(9));
    stages.goNext();
    stages.passNext();
    expect([page.stage, page.pointed?.start, stages.later]).toEqual(["jumps", 9, 1]);
    stages.passNext();
    stages.passNext();
    expect([stages.later, stages.left.length, stages.next?.[0], stages.shown]).toEqual([3, 3, "jumps", ""]);
    stages.goNext();
    expect([page.pointed?.start, stages.later]).toEqual([4, 0]);
  });

  test("edits that are left for later are discarded", async () => {
    const edits = { operation: "fix", page: "a.html", rule: "hash-missing", start: 4 };
    const { page, stages } = await withSteps(broken(4, edits), broken(9));
    stages.goNext();
    await vi.waitFor(() => expect(useTray().waits).toBe(true), PATIENCE);
    stages.passNext();
    expect([useTray().waits, page.pointed?.start]).toEqual([false, 9]);
  });

  test("another page begins anew", async () => {
    const { page, stages } = await withSteps(broken(4), broken(9));
    stages.goNext();
    stages.passNext();
    expect(stages.later).toBe(1);
    answers.set("/api/sites/{site_id}/page", () => answer({ ...PAGE, path: "b.html" }));
    await page.load("site", "b.html");
    expect([stages.later, stages.shown]).toEqual([0, ""]);
  });

  test("the levels that were chosen for look-alikes are those that they get", async () => {
    const lookalikes = [
      { index: 0, text: "Coal", start: 4, line: 2, level: 2 },
      { index: 1, text: "Lamps", start: 9, line: 3, level: 2 },
    ];
    const edits = { operation: "promote", page: "a.html", levels: { "0": 2, "1": 2 } };
    const stages_ = [stage("headings", "todo", "2 look-alikes", { edits, start: 4, line: 2 })];
    const structure = { ...PAGE.structure, lookalikes };
    answers.set("/api/sites/{site_id}/page", () => answer({ ...PAGE, stages: stages_, structure }));
    const page = usePage();
    await page.load("site", "a.html");
    page.levels.set("Lamps", 3);
    useStages().goNext();
    await vi.waitFor(() => expect(useTray().waits).toBe(true), PATIENCE);
    expect(asked.map((one) => one.body)).toContainEqual(
      expect.objectContaining({ operation: "promote", levels: { "0": 2, "1": 3 } }),
    );
    expect(page.pointed).toEqual({ start: 4, line: 2 });
  });

  test.each([
    ["headings", { form: "repair", code: "gaps" }, { name: "repair", code: "gaps" }],
    ["identifiers", { form: "twice" }, { name: "twice" }],
    ["contents", { form: "adopt", start: 7, line: 1 }, { name: "adopt", start: 7 }],
    ["walk", { form: "landing-fixes" }, { name: "landing-fixes" }],
  ])("what asks at the stage of %s is opened", async (name, step, dialog) => {
    answers.set("/api/sites/{site_id}/page", () => answer({ ...PAGE, stages: [stage(name, "todo", "", step)] }));
    await usePage().load("site", "a.html");
    useStages().goNext();
    expect(useDialogs().open).toEqual(dialog);
    expect(asked.filter((one) => one.address.endsWith("/plans"))).toHaveLength(0);
  });

  test("broken links are shown at the first of them", async () => {
    const stages_ = [stage("jumps", "wrong", "1 broken", { start: 30, line: 4 })];
    answers.set("/api/sites/{site_id}/page", () => answer({ ...PAGE, stages: stages_ }));
    const page = usePage();
    await page.load("site", "a.html");
    useStages().goNext();
    expect([page.linksShown, page.pointed]).toEqual(["broken", { start: 30, line: 4 }]);
  });

  test("a locked page is only opened at its stage", async () => {
    answers.set("/api/sites/{site_id}/page", () => answer({ ...PAGE, locked: "damaged" }));
    const page = usePage();
    await page.load("site", "a.html");
    useStages().goNext();
    expect(page.stage).toBe("identifiers");
    expect(asked.filter((one) => one.address.endsWith("/plans"))).toHaveLength(0);
  });
});
