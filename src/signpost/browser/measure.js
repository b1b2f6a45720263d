/* Runs in the preview's frame beside walk.js: it measures the page, and tries jumps, when the desk asks. */
(() => {
  const { doc, plain, tell, MEASURED, SIZED, PLACE, CONTENT } = signpostFrame;
  const PATIENCE = 4000; // milliseconds that pictures and fonts may take
  const BURST = 150; // jumps tried in a row; browsers refuse more than 200 in ten seconds
  const PACE = 55; // milliseconds between jumps after that
  const wait = (time) => new Promise((done) => setTimeout(done, time));
  const once = (target, ...kinds) => new Promise((done) => kinds.forEach((kind) => target.addEventListener(kind, done, { once: true })));
  const px = (text) => parseFloat(text) || 0;
  const round = (number) => Math.round(number * 100) / 100;

  /** Wait until the page looks as it will: its style sheets, pictures and fonts are there. */
  const settle = async () => {
    for (const image of doc.images) image.loading = "eager";
    const pictures = [...doc.images].filter((image) => !image.complete).map((image) => once(image, "load", "error"));
    const loaded = doc.readyState === "complete" ? [] : [once(window, "load")];
    await Promise.race([Promise.all([...loaded, ...pictures, doc.fonts.ready]), wait(PATIENCE)]);
  };

  const rectOf = (rect) => ({ left: round(rect.left), top: round(rect.top + scrollY), right: round(rect.right), bottom: round(rect.bottom + scrollY) });

  /** What the page keeps free above a landing, in CSS pixels, percentages resolved by the browser itself. */
  const scrollPadding = () => {
    const asked = getComputedStyle(doc.documentElement).scrollPaddingTop;
    if (asked === "auto" || /^[\d.]+px$/.test(asked)) return px(asked);
    const rod = doc.documentElement.appendChild(doc.createElement("div"));
    rod.style.cssText = `position:fixed;height:${asked}`;
    const height = rod.getBoundingClientRect().height;
    rod.remove();
    return height;
  };

  const scrolls = (element, style) =>
    element !== doc.documentElement && element !== doc.scrollingElement &&
    /auto|scroll|hidden/.test(style.overflowY) && plain(element).scrollHeight > plain(element).clientHeight + 1 &&
    !(element === doc.body && getComputedStyle(doc.documentElement).overflowY === "visible");

  /** What keeps elements from moving with the page: themselves or what they stand in, the nearest first. */
  const holdsOf = () => {
    const known = new Map();
    const within = (element) => {
      if (!element) return "";
      let hold = known.get(element);
      if (hold === undefined) {
        const style = getComputedStyle(element);
        if (style.position === "fixed" || style.position === "sticky") hold = style.position;
        else hold = scrolls(element, style) ? "boxed" : within(plain(element).parentElement);
        known.set(element, hold);
      }
      return hold;
    };
    const of = (element) => {
      const { position } = getComputedStyle(element);
      return position === "fixed" || position === "sticky" ? position : within(plain(element).parentElement);
    };
    return { of, within };
  };

  /** The first line of words in an element, or of those that follow it; a picture counts as words. */
  const firstLine = (element) => {
    const own = plain(element).getBoundingClientRect();
    const walker = doc.createTreeWalker(doc.body, NodeFilter.SHOW_TEXT | NodeFilter.SHOW_ELEMENT);
    walker.currentNode = element;
    for (let steps = 0; steps < 60 && walker.nextNode(); steps++) {
      const node = walker.currentNode;
      if (node.nodeType === Node.ELEMENT_NODE) {
        if (node.tagName === "IMG" && node.getClientRects().length) return rectOf(node.getBoundingClientRect());
        continue;
      }
      const at = node.data.search(/\S/);
      if (at < 0) continue;
      const range = doc.createRange();
      range.setStart(node, at);
      range.setEnd(node, node.data.length);
      const line = range.getClientRects()[0];
      if (line) return rectOf(line);
    }
    return rectOf(own);
  };

  const labelOf = (element) => {
    const { tagName, id, classList } = plain(element);
    const tag = tagName.toLowerCase();
    return id ? `${tag}#${id}` : [tag, ...[...classList].slice(0, 2)].join(".");
  };

  /** The closed passages that an element stands in, outermost first; a jump into them opens them. */
  const foldsOf = (element) => {
    const folds = [];
    for (let at = plain(element).parentElement; at; at = plain(at).parentElement) {
      const inSummary = at instanceof HTMLDetailsElement && at.querySelector(":scope > summary")?.contains(element);
      if (at instanceof HTMLDetailsElement && !at.open && !inSummary) folds.unshift(at);
    }
    return folds;
  };

  const boxOf = (measured, hold) => {
    const element = plain(measured);
    const rect = element.getBoundingClientRect();
    const link = element.getAttribute(MEASURED) === "link";
    const shown = element.getClientRects().length > 0;
    return {
      start: Number(element.getAttribute(PLACE)), top: round(rect.top + (hold === "fixed" ? 0 : scrollY)),
      bottom: round(rect.bottom + (hold === "fixed" ? 0 : scrollY)), margin: px(getComputedStyle(measured).scrollMarginTop),
      hold: shown ? hold : "hidden", words: link || !shown ? null : firstLine(measured), height: null,
    };
  };

  const pageHeight = () => doc.scrollingElement.scrollHeight;

  const inset = (text) => (text === "auto" ? null : px(text));

  /** The elements that stay in the window, with what keeps them there; an inner box's own are not the window's. */
  const findStaying = (holdOf) => {
    const found = [];
    for (const element of doc.body.getElementsByTagName("*")) {
      const style = getComputedStyle(element);
      const sticky = style.position === "sticky";
      if (!sticky && style.position !== "fixed") continue;
      const covers = style.visibility === "visible" && style.opacity !== "0" && !(Number(style.zIndex) < 0);
      found.push({
        element, sticky, covers: covers && !(sticky && holdOf(plain(element).parentElement) === "boxed"), stick_top: sticky ? inset(style.top) : null,
        stick_bottom: sticky ? inset(style.bottom) : null, above: px(style.marginTop), below: px(style.marginBottom),
        written: plain(element).getAttribute("style"),
      });
    }
    return found;
  };

  const barOf = ({ element, sticky, stick_top, stick_bottom, above, below }) => {
    const box = plain(element).getBoundingClientRect();
    const rect = sticky ? rectOf(box) : { left: round(box.left), top: round(box.top), right: round(box.right), bottom: round(box.bottom) };
    const bar = { label: labelOf(element), rect, sticky, stick_top, stick_bottom, ceiling: 0, floor: 0 };
    if (!sticky) return bar;
    const { parentElement } = plain(element);
    const holder = plain(parentElement).getBoundingClientRect();
    const around = getComputedStyle(parentElement);
    bar.ceiling = round(holder.top + scrollY + px(around.borderTopWidth) + px(around.paddingTop) + above);
    bar.floor = round(holder.bottom + scrollY - px(around.borderBottomWidth) - px(around.paddingBottom) - below);
    return bar;
  };

  const TEXT = "p, li, dd, dt, td, th, pre, h1, h2, h3, h4, h5, h6, figcaption";
  const APART = 4; // pixels that things may overlap by without anybody seeing it
  const SIDE = 0.6; // share of the window's width that something at the side takes at most
  const LEAST_FIXED = 80; // pixels of height; what is fixed and lower than that is a bar or a button, not a list

  /** Whether what an element holds and does not show can be reached by scrolling sideways. */
  const scrollsSideways = (element) => {
    for (let at = element; at && at !== doc.body; at = plain(at).parentElement)
      if (/auto|scroll/.test(getComputedStyle(at).overflowX)) return true;
    return false;
  };

  /** Whether a reader sees where an element's box ends. */
  const hasEdge = (element) => {
    const style = getComputedStyle(element);
    const filled = style.backgroundImage !== "none" || !/^(transparent|rgba\(.*, 0\))$/.test(style.backgroundColor);
    return filled || px(style.borderRightWidth) > 0 || style.overflowX !== "visible";
  };

  /** How an element came to stand beside the text: "fixed", "apart" (out of the flow), or "" where it did not. */
  const besideOf = (element) => {
    for (let at = element; at && at !== doc.body; at = plain(at).parentElement) {
      const { position, cssFloat } = getComputedStyle(at);
      if (position === "fixed") return position;
      if (position === "absolute" || position === "sticky" || cssFloat !== "none") return "apart";
    }
    return "";
  };

  /** How many pixels of lines of text a rectangle of the window lies over; one that is fixed passes by all of them. */
  const overText = (element, rect, fixed) => {
    let most = 0;
    for (const block of doc.body.querySelectorAll(TEXT)) {
      if (element.contains(block) || plain(block).contains(element) || most > rect.width) continue;
      const over = (other) => {
        const down = fixed ? APART + 1 : Math.min(other.bottom, rect.bottom) - Math.max(other.top, rect.top);
        return down > APART ? Math.min(other.right, rect.right) - Math.max(other.left, rect.left) : 0;
      };
      if (over(plain(block).getBoundingClientRect()) <= APART || besideOf(block) === "fixed") continue;
      const range = doc.createRange();
      range.selectNodeContents(block);
      for (const line of range.getClientRects()) most = Math.max(most, over(line));
    }
    return most > APART ? most : 0;
  };

  const SIZES = {
    picture: (element) => ({ own_width: element.naturalWidth, own_height: element.naturalHeight }),
    sample: (element) => {
      const { scrollWidth, clientWidth } = element;
      const right = element.getBoundingClientRect().left + scrollWidth;
      if (scrollWidth <= clientWidth + APART || scrollsSideways(element)) return null;
      return hasEdge(element) || right > doc.documentElement.clientWidth ? { width: clientWidth, own_width: scrollWidth } : null;
    },
    side: (element, rect) => {
      const beside = besideOf(element);
      const style = getComputedStyle(element);
      const seen = style.visibility === "visible" && style.opacity !== "0";
      if (!beside || !seen || rect.width > SIDE * innerWidth || (beside === "fixed" && rect.height < LEAST_FIXED)) return null;
      const { scrollWidth, clientWidth } = element;
      const spills = scrollWidth > clientWidth + APART && !scrollsSideways(element) && hasEdge(element);
      const over = overText(element, rect, beside === "fixed");
      return spills || over ? { width: clientWidth, own_width: spills ? scrollWidth : clientWidth, over } : null;
    },
  };

  /** The sizes of what may not fit: pictures, samples, and what stands at the side. */
  const sizes = () =>
    [...doc.querySelectorAll(`[${SIZED}]`)].flatMap((found) => {
      const element = plain(found);
      const kind = element.getAttribute(SIZED);
      const rect = element.getBoundingClientRect();
      const size = rect.width > 0 && rect.height > 0 ? SIZES[kind](element, rect) : null;
      if (!size) return [];
      const whole = { width: rect.width, height: rect.height, own_width: 0, own_height: 0, over: 0, ...size };
      for (const name of Object.keys(whole)) whole[name] = round(whole[name]);
      return [{ start: Number(element.getAttribute(PLACE)), kind, ...whole }];
    });

  const measure = () => {
    const elements = [...doc.querySelectorAll(`[${MEASURED}]`)];
    const hold = holdsOf();
    const holds = new Map(elements.map((element) => [element, hold.of(element)]));
    const staying = findStaying(hold.within);
    const sticky = staying.filter((found) => found.sticky);
    for (const { element } of sticky) plain(element).style.setProperty("position", "static", "important"); // where they would stand
    const boxes = elements.map((element) => boxOf(element, holds.get(element)));
    const content = doc.querySelector(`[${CONTENT}]`);
    const found = {
      view_height: visualViewport.height, height: pageHeight(), padding: round(scrollPadding()),
      snaps: getComputedStyle(doc.documentElement).scrollSnapType !== "none",
      content_bottom: content && content !== doc.body ? rectOf(plain(content).getBoundingClientRect()).bottom : null,
      boxes, bars: staying.filter((one) => one.covers && plain(one.element).getClientRects().length).map(barOf),
    };
    elements.forEach((element, index) => {
      const folds = foldsOf(element);
      if (!folds.length) return;
      folds.forEach((fold) => (fold.open = true));
      Object.assign(boxes[index], boxOf(element, holds.get(element)), { height: pageHeight() });
      folds.forEach((fold) => (fold.open = false));
    });
    for (const { element, written } of sticky) {
      if (written === null) plain(element).removeAttribute("style");
      else plain(element).setAttribute("style", written);
    }
    return { ...found, sizes: sizes() };
  };

  /** Follow jumps one by one, each from the page's top, and tell where the window ends. */
  const attempt = async (fragments, id) => {
    doc.documentElement.style.setProperty("scroll-behavior", "auto", "important");
    const folds = [...doc.querySelectorAll("details:not([open])")];
    const ends = [];
    for (const [count, fragment] of fragments.entries()) {
      if (count >= BURST) await wait(PACE);
      folds.forEach((fold) => (fold.open = false)); // a jump into one has opened it
      scrollTo(0, 0);
      location.replace(`#${fragment}`);
      ends.push(round(scrollY));
      if (count % 20 === 19) tell({ kind: "trying", id, done: count + 1 });
    }
    tell({ kind: "tried", id, ends });
  };

  addEventListener("message", async (event) => {
    if (event.source !== parent || event.data?.to !== "signpost-walk") return;
    const { kind, id, fragments, css } = event.data;
    if (kind !== "measure" && kind !== "try") return;
    await settle();
    const style = css ? doc.head.appendChild(doc.createElement("style")) : null;
    if (style) style.textContent = String(css);
    if (kind === "measure") tell({ kind: "measured", id, geometry: measure() });
    else await attempt(fragments.map(String), id);
    style?.remove();
  });
})();
