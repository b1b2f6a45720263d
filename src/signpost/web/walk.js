/* Runs in the preview's frame, and alone there: it follows jumps, tells the desk where the reader is, and goes where
   the desk says. The frame has no origin of its own, so messages go to whoever embeds it, and hold nothing secret. */
(() => {
  const MARK = "data-signpost-section";
  const tell = (message) => parent.postMessage({ from: "signpost-walk", ...message }, "*");
  const headings = () => [...document.querySelectorAll(`[${MARK}]`)];
  const indexOf = (heading) => Number(heading.getAttribute(MARK));

  /** The section whose heading was the last to pass the window's upper third; -1 for the lead. */
  const currentSection = () => {
    let current = -1;
    for (const heading of headings()) {
      if (heading.getBoundingClientRect().top > innerHeight / 3) break;
      current = indexOf(heading);
    }
    return current;
  };

  let told = null;
  let waiting = false;
  addEventListener("scroll", () => {
    if (waiting) return;
    waiting = true;
    requestAnimationFrame(() => {
      waiting = false;
      const section = currentSection();
      if (section !== told) tell({ kind: "section", section: (told = section) });
    });
  }, { passive: true });

  addEventListener("click", (event) => {
    const link = event.target.closest?.("a[href], area[href]");
    if (!link) {
      const heading = event.target.closest?.(`[${MARK}]`);
      if (heading) tell({ kind: "picked", section: indexOf(heading) });
      return;
    }
    const to = new URL(link.href, document.baseURI);
    const here = new URL(document.URL);
    const samePage = to.origin === here.origin && to.pathname === here.pathname && to.hash !== "";
    if (samePage || link.getAttribute("href") === "#") return;
    event.preventDefault();
    tell({ kind: "followed", address: to.href, text: link.textContent.trim() });
  }, true);

  addEventListener("message", (event) => {
    if (event.source !== parent || event.data?.to !== "signpost-walk") return;
    if (event.data.kind === "section") {
      const heading = document.querySelector(`[${MARK}="${Number(event.data.section)}"]`);
      told = Number(event.data.section);
      if (heading) heading.scrollIntoView({ block: "start" });
      else scrollTo(0, 0);
    } else if (event.data.kind === "fragment") {
      location.hash = String(event.data.fragment);
    }
  });

  tell({ kind: "ready", title: document.title });
})();
