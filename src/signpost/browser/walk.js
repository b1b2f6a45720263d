/* Runs in the preview's frame, and alone there: it follows jumps, tells the desk where the reader is, and goes where
   the desk says. The frame has no origin of its own, so messages go to whoever embeds it, and hold nothing secret. */
(() => {
  const { doc, plain, addressOf, tell, SECTION: MARK, PLACE, UNTIL } = signpostFrame;
  const headings = () => [...doc.querySelectorAll(`[${MARK}]`)];
  const indexOf = (heading) => Number(heading.getAttribute(MARK)); // a heading or a title, never a form

  /** The section whose heading was the last to pass the window's upper third; -1 for the lead. */
  const currentSection = () => {
    let current = -1;
    for (const heading of headings()) {
      if (heading.getBoundingClientRect().top > innerHeight / 3) break;
      current = indexOf(heading);
    }
    return current;
  };

  /** Scroll to an element as a jump would; unlike scrollIntoView, this leaves the frame's surroundings alone. */
  const goTo = (element) => {
    if (!element) return scrollTo(0, 0);
    const padding = parseFloat(getComputedStyle(doc.documentElement).scrollPaddingTop) || 0;
    const margin = parseFloat(getComputedStyle(element).scrollMarginTop) || 0;
    scrollTo(0, plain(element).getBoundingClientRect().top + scrollY - padding - margin);
  };

  /** Bring an element to sight, clear of what may cover the window's top. */
  const show = (element) => {
    const at = plain(element).getBoundingClientRect();
    if (at.top < innerHeight / 4 || at.bottom > innerHeight) scrollTo(0, at.top + scrollY - innerHeight / 3);
  };

  let told = null;
  let waiting = false;
  const tellWhere = () => {
    waiting = false;
    const section = currentSection();
    tell({ kind: "scrolled", top: scrollY, section: section === told ? null : (told = section) });
  };
  addEventListener("scroll", () => {
    if (!waiting) requestAnimationFrame(tellWhere);
    waiting = true;
  }, { passive: true });

  const linkOf = (event) => plain(event.target).closest?.("a[*|href], area[href]") ?? null;
  const startOf = (element) => {
    const start = element && plain(element).getAttribute(PLACE);
    return start == null ? null : Number(start);
  };
  const still = () => doc.documentElement.style.setProperty("scroll-behavior", "auto", "important");

  /** Tell which link the reader is about to follow; null for none. */
  let about = null;
  const tellAbout = (link) => {
    if (link === about) return;
    about = link;
    tell({ kind: "about", start: startOf(link), address: link ? addressOf(link) : "" });
  };
  let pointer = "";
  /** Whether the mouse moved; browsers send events as well where the page moved under it. */
  const moved = ({ screenX, screenY }) => pointer !== (pointer = `${screenX} ${screenY}`);
  addEventListener("mouseover", (event) => tellAbout(moved(event) ? linkOf(event) : null));
  addEventListener("focusin", (event) => tellAbout(linkOf(event)));
  addEventListener("focusout", () => tellAbout(null));
  doc.addEventListener("mouseleave", () => tellAbout(null));

  /** Tell where the window stands once a jump has come to rest. */
  const tellLanded = (start) => {
    let rested = false;
    const rest = () => {
      if (rested) return;
      rested = true;
      tell({ kind: "landed", start, top: scrollY });
    };
    addEventListener("scrollend", rest, { once: true });
    setTimeout(rest, 700);
  };

  const opensWindow = (link) => !["", "_self", "_top", "_parent"].includes((link.getAttribute("target") ?? "").toLowerCase());

  /** Show a link to the reader where it stands, then follow it. */
  let following = 0;
  const follow = (start, begin, pause) => {
    clearTimeout(following);
    const link = doc.querySelector(`[${PLACE}="${start}"]`);
    if (!link) return tell({ kind: "landed", start, top: scrollY });
    still();
    scrollTo(0, begin);
    outline(link);
    following = setTimeout(() => {
      outline(null);
      const address = addressOf(link);
      const to = hereOf(address);
      if (!to) return tell({ kind: "followed", address, start });
      location.replace(to.hash || "#");
      tell({ kind: "landed", start, top: scrollY });
    }, pause);
  };

  /** An address that leads to a place of this page; null for any other. */
  const hereOf = (address) => {
    const here = new URL(doc.URL);
    const to = address ? new URL(address) : null;
    return to && to.origin === here.origin && to.pathname === here.pathname ? to : null;
  };

  let pointing = false; // whether a click chooses a place
  let pointed = null;
  const placeOf = (event) => plain(event.target).closest?.(`[${PLACE}]`) ?? null;

  /** Outline the element that a click would choose; outlines take no room, so the page stays as it is. */
  const outline = (element) => {
    if (pointed) pointed.outline = pointed.outlineOffset = "";
    pointed = element && plain(element).style;
    if (!element) return;
    pointed.outline = "2px solid #7a4a86";
    pointed.outlineOffset = "-1px";
  };
  addEventListener("mouseover", (event) => pointing && outline(placeOf(event)));

  let faults = new Map(); // by the place of what is marked: which of the findings are there
  let faultStyle = null;

  /** Mark the innermost elements that findings are in; outlines take no room, so the page stays as it is. */
  const markFaults = (findings) => {
    const places = [...doc.querySelectorAll(`[${UNTIL}]`)].map((found) => [startOf(found), Number(plain(found).getAttribute(UNTIL))]);
    faults = new Map();
    const rules = [];
    findings.forEach(({ start, colour }, index) => {
      let at = -1;
      for (const [begin, end] of places) if (begin <= start && start < end && begin > at) at = begin;
      if (at < 0) return;
      if (!faults.has(at)) rules.push(`[${PLACE}="${at}"] { outline: 2px dashed ${colour} !important; outline-offset: 1px !important }`);
      faults.set(at, [...(faults.get(at) ?? []), index]);
    });
    faultStyle ??= doc.head.appendChild(doc.createElement("style"));
    faultStyle.textContent = rules.join("\n");
  };

  /** The findings of the innermost marked element that a click was in; null for none. */
  const faultsAt = (event) => {
    if (!faults.size) return null;
    for (let at = placeOf(event); at; at = plain(plain(at).parentElement)?.closest(`[${PLACE}]`) ?? null)
      if (faults.has(startOf(at))) return faults.get(startOf(at));
    return null;
  };

  let style = null; // a reading style that is only looked at
  let linking = false; // whether chosen words become a jump link
  const words = (text) => text.trim().split(/\s+/).join(" ");

  /** Tell which words of which element were chosen, and which of the places where it shows them is meant. */
  const tellChosen = (event) => {
    const selection = getSelection();
    const text = words(selection?.toString() ?? "");
    if (!text) {
      const place = plain(event.target).closest?.(`a[${PLACE}], img[${PLACE}]`);
      if (place) tell({ kind: "chosen", place: Number(place.getAttribute(PLACE)), words: "", occurrence: 0 });
      return;
    }
    const range = selection.getRangeAt(0);
    const common = range.commonAncestorContainer;
    const around = common instanceof Element ? common : common.parentElement;
    const holder = plain(around).closest(`[${PLACE}]`);
    if (!holder) return;
    const ahead = doc.createRange();
    ahead.setStart(holder, 0);
    ahead.setEnd(range.startContainer, range.startOffset);
    const occurrence = words(ahead.toString()).split(text).length - 1;
    tell({ kind: "chosen", place: startOf(holder), words: text, occurrence });
  };
  addEventListener("mouseup", (event) => linking && setTimeout(tellChosen, 0, event));

  addEventListener("click", (event) => {
    if (linking) {
      event.preventDefault();
      return;
    }
    if (pointing) {
      event.preventDefault();
      const place = placeOf(event);
      if (place) tell({ kind: "placed", place: startOf(place) });
      return;
    }
    const found = faultsAt(event);
    if (found) {
      event.preventDefault();
      tell({ kind: "found", found });
      return;
    }
    const link = linkOf(event);
    if (!link) {
      const heading = plain(event.target).closest?.(`[${MARK}]`);
      if (heading) tell({ kind: "picked", section: indexOf(heading) });
      return;
    }
    const address = addressOf(link);
    const to = hereOf(address);
    const jumps = to && (to.hash !== "" || link.getAttribute("href") === "#");
    if (jumps && !opensWindow(link)) return tellLanded(startOf(link));
    event.preventDefault();
    if (jumps) {
      location.replace(to.hash || "#"); // the frame may not open windows
      return tellLanded(startOf(link));
    }
    tell({ kind: "followed", address, start: startOf(link) });
  }, true);

  /* Keys of the desk work while the reader is in the page, but not while something is typed there. */
  let keys = new Set();
  const mac = /Mac|iPhone|iPad/.test(navigator.platform);
  const keyName = ({ key, code, altKey, ctrlKey, metaKey, shiftKey }) => {
    const mod = mac ? metaKey : ctrlKey;
    const plainKey = altKey ? /^(?:Digit(\d)|Key([A-Z]))$/.exec(code) : null;
    const named = plainKey ? plainKey[1] ?? plainKey[2] : key;
    const short = named.length === 1 ? named.toLowerCase() : named;
    const shift = shiftKey && (short.length > 1 || mod || /[a-z]/.test(short));
    return `${mod ? "Mod+" : ""}${altKey ? "Alt+" : ""}${shift ? "Shift+" : ""}${short}`;
  };
  /** Keys by which a reader scrolls, which stay with the page. */
  const READING = new Set(["ArrowUp", "ArrowDown", "Enter", " "]);
  addEventListener("keydown", (event) => {
    const name = keyName(event);
    const typed = plain(event.target).closest?.("input, textarea, select, [contenteditable]");
    if ((typed && name.length === 1) || READING.has(name) || !keys.has(name)) return;
    event.preventDefault();
    const { key, code, shiftKey: shift, ctrlKey: ctrl, metaKey: meta, altKey: alt } = event;
    tell({ kind: "key", key, code, shift, ctrl, meta, alt });
  });

  addEventListener("message", (event) => {
    if (event.source !== parent || event.data?.to !== "signpost-walk") return;
    if (event.data.kind === "section") {
      told = Number(event.data.section);
      goTo(doc.querySelector(`[${MARK}="${told}"]`));
    } else if (event.data.kind === "place") {
      const place = doc.querySelector(`[${PLACE}="${Number(event.data.start)}"]`);
      if (place) show(place);
      outline(place);
    } else if (event.data.kind === "follow") {
      follow(Number(event.data.start), Number(event.data.begin), Number(event.data.pause));
    } else if (event.data.kind === "scroll") {
      scrollTo({ top: Number(event.data.top), behavior: "instant" });
    } else if (event.data.kind === "top") {
      if (scrollY === 0) scrollTo(0, Number(event.data.top)); // unless the reader has gone somewhere meanwhile
    } else if (event.data.kind === "point") {
      pointing = Boolean(event.data.on);
      doc.documentElement.style.cursor = pointing ? "crosshair" : "";
      if (!pointing) outline(null);
    } else if (event.data.kind === "link") {
      linking = Boolean(event.data.on);
      doc.documentElement.style.cursor = linking ? "text" : "";
      if (linking && getSelection()?.toString().trim()) tellChosen(event); // words that were chosen before
    } else if (event.data.kind === "findings") {
      markFaults([].concat(event.data.findings));
    } else if (event.data.kind === "keys") {
      keys = new Set([].concat(event.data.names).map(String));
    } else if (event.data.kind === "style") {
      style ??= doc.head.appendChild(doc.createElement("style"));
      style.textContent = String(event.data.css);
    } else if (event.data.kind === "fragment") {
      still();
      location.replace(`#${event.data.fragment}`);
      tell({ kind: "landed", start: null, top: scrollY });
    }
  });

  tell({ kind: "ready", top: scrollY });
  if (scrollY > 0) tellWhere(); // a jump was quicker than this script
})();
