/** Bringing files in: gathered from a drop or a choice, sent in batches, with progress and a list of what was skipped. */
import { readonly, ref, shallowRef } from "vue";
import { authorHeader } from "../api/author";
import { api, data, detailOf, Problem, type Intake, type Skipped } from "../api/client";

/** How much goes in one request: files, and bytes. */
const BATCH_FILES = 80;
const BATCH_BYTES = 8 * 1024 * 1024;

interface Found {
  path: string;
  file: File;
}

/** Return what one dropped entry contains, folders included. */
async function gather(entry: FileSystemEntry, prefix: string): Promise<Found[]> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    return [{ path: prefix + entry.name, file }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: Found[] = [];
  for (;;) {
    const batch = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (!batch.length) return found;
    for (const child of batch) found.push(...(await gather(child, `${prefix}${entry.name}/`)));
  }
}

/** Bring files in: to a new site, or to one that is there. */
export function useIntake(into = "") {
  const busy = ref(false);
  const sent = ref(0); // bytes
  const total = ref(0); // bytes
  const problem = ref("");
  const taken = ref(0); // files
  const skipped = shallowRef<Skipped[]>([]);
  const site = ref(""); // the site that came of it
  const replacing = ref(false); // whether files that are there already get the new bytes
  let lastFound: Found[] = [];

  function send(siteId: string, kind: "files" | "archive", form: FormData): Promise<Intake> {
    const before = sent.value;
    return new Promise((resolve, reject) => {
      const request = new XMLHttpRequest();
      request.open("POST", `/api/sites/${encodeURIComponent(siteId)}/${kind}`);
      request.setRequestHeader("x-signpost-author", authorHeader());
      request.upload.onprogress = (event) => (sent.value = before + event.loaded);
      request.onload = () => {
        let answer: unknown = null;
        try {
          answer = JSON.parse(request.responseText);
        } catch {
          // said below
        }
        if (request.status >= 200 && request.status < 300) resolve(answer as Intake);
        else reject(new Problem(request.status, detailOf(answer)));
      };
      request.onerror = () =>
        reject(new Problem(0, "The server stopped answering while files were sent. Try again."));
      request.send(form);
    });
  }

  async function newSite(name: string): Promise<string> {
    const made = await data(api.POST("/api/sites", { body: { name } }));
    return made.site_id;
  }

  function note(intake: Intake): void {
    taken.value += intake.taken.length;
    skipped.value = [...skipped.value, ...intake.skipped];
  }

  async function run(work: () => Promise<void>): Promise<void> {
    if (busy.value) return;
    busy.value = true;
    problem.value = "";
    sent.value = total.value = taken.value = 0;
    skipped.value = [];
    site.value = into;
    try {
      await work();
      if (taken.value === 0 && !skipped.value.some((one) => one.asks)) {
        problem.value = into
          ? "None of these files could be taken."
          : "None of these files could be taken, so there is no new site.";
        await remove();
      }
    } catch (error) {
      problem.value = detailOf(error);
      await remove();
    } finally {
      busy.value = false;
    }
  }

  /** Take a site away that was made for files of which none came. */
  async function remove(): Promise<void> {
    const siteId = site.value;
    if (into || !siteId) return;
    site.value = "";
    await api.DELETE("/api/sites/{site_id}", { params: { path: { site_id: siteId } } });
  }

  /** Bring in files with their paths; a single ZIP archive is unpacked. */
  function bring(found: Found[]): Promise<void> {
    return run(async () => {
      lastFound = found;
      const archive = found.length === 1 && /\.zip$/i.test(found[0]!.path) ? found[0]!.file : null;
      const root = archive ? "" : commonFolder(found.map((one) => one.path));
      const name = archive ? archive.name.replace(/\.zip$/i, "") : root || found[0]?.path || "";
      total.value = found.reduce((sum, one) => sum + one.file.size, 0);
      site.value ||= await newSite(name);
      if (archive) {
        const form = newForm([]);
        form.append("archive", archive, archive.name);
        note(await send(site.value, "archive", form));
        return;
      }
      for (let start = 0; start < found.length;) {
        const form = newForm([]);
        form.append("root", root);
        let bytes = 0;
        const first = start;
        while (
          start < found.length &&
          start - first < BATCH_FILES &&
          (bytes === 0 || bytes + found[start]!.file.size < BATCH_BYTES)
        ) {
          form.append("files", found[start]!.file, found[start]!.path);
          bytes += found[start++]!.file.size;
        }
        note(await send(site.value, "files", form));
      }
    });
  }

  function newForm(anyway: readonly string[]): FormData {
    const form = new FormData();
    form.append("replace", String(replacing.value));
    for (const path of anyway) form.append("anyway", path);
    return form;
  }

  /** Take the files too that were asked about. */
  async function bringAnyway(): Promise<void> {
    const asked = skipped.value.filter((one) => one.asks).map((one) => one.path);
    const archive = lastFound.length === 1 && /\.zip$/i.test(lastFound[0]!.path) ? lastFound[0]!.file : null;
    const root = archive ? "" : commonFolder(lastFound.map((one) => one.path));
    const form = newForm(asked);
    if (archive) form.append("archive", archive, archive.name);
    else {
      form.append("root", root);
      for (const one of lastFound)
        if (asked.includes(root ? one.path.slice(root.length + 1) : one.path))
          form.append("files", one.file, one.path);
    }
    busy.value = true;
    try {
      const intake = await send(site.value, archive ? "archive" : "files", form);
      taken.value += intake.taken.length;
      skipped.value = skipped.value.filter((one) => !intake.taken.includes(one.path));
    } catch (error) {
      problem.value = detailOf(error);
    } finally {
      busy.value = false;
    }
  }

  /** Bring in what was dropped: folders, files or an archive. */
  async function bringDropped(dropped: DataTransfer): Promise<void> {
    const files = [...dropped.files];
    const entries = [...dropped.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
    const found: Found[] = [];
    for (const entry of entries) found.push(...(await gather(entry, "")));
    if (!entries.length) found.push(...files.map((file) => ({ path: file.name, file })));
    if (found.length) await bring(found);
  }

  /** Bring in what was chosen with the browser's own dialog. */
  function bringChosen(files: FileList): Promise<void> {
    return bring([...files].map((file) => ({ path: file.webkitRelativePath || file.name, file })));
  }

  /** Bring in a page whose source was pasted. */
  function bringPasted(name: string, text: string): Promise<void> {
    const path = /\.html?$/i.test(name) ? name : `${name || "page"}.html`;
    return bring([{ path, file: new File([text], path, { type: "text/html" }) }]);
  }

  return {
    busy: readonly(busy),
    sent: readonly(sent),
    total: readonly(total),
    problem: readonly(problem),
    taken: readonly(taken),
    skipped,
    site: readonly(site),
    replacing,
    bringAnyway,
    bringDropped,
    bringChosen,
    bringPasted,
  };
}

/** Return the folder that all paths begin with, or "". */
function commonFolder(paths: string[]): string {
  const firsts = new Set(paths.map((path) => (path.includes("/") ? path.slice(0, path.indexOf("/")) : "")));
  return firsts.size === 1 ? [...firsts][0]! : "";
}
