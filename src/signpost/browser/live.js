// Returns where the window stands after a fragment was followed on the page that is loaded. It waits for nothing: on a
// page whose scripts are off, no timer runs.
(fragment) => {
  const decoded = (() => {
    try {
      return decodeURIComponent(fragment);
    } catch {
      return fragment;
    }
  })();
  const named = (name) =>
    document.getElementById(name) || document.querySelector(`a[name="${CSS.escape(name)}"]`);
  const found = named(fragment) || named(decoded);
  if (!found) return { state: "missing" };
  const box = found.getBoundingClientRect();
  const drawn = found.getClientRects().length > 0 && getComputedStyle(found).visibility !== "hidden";
  // an empty mark, such as an old named target, has no size of its own: it counts where it stands
  const gone = [found, ...ancestors(found)].some((one) => getComputedStyle(one).display === "none");
  if (gone || (!drawn && found.textContent.trim() !== "")) return { state: "hidden" };
  if (box.top >= window.innerHeight || box.top < -Math.max(2, window.innerHeight * 0.02) - box.height) {
    return { state: "away", top: Math.round(box.top) };
  }
  const at = Math.min(Math.max(box.top + Math.min(box.height / 2, 8), 0), window.innerHeight - 1);
  const cover = document.elementFromPoint(Math.min(Math.max(box.left + 8, 1), window.innerWidth - 2), at);
  const over = cover && !found.contains(cover) && !cover.contains(found) ? holder(cover) : null;
  if (over) return { state: "covered", top: Math.round(box.top), by: over };
  return { state: "lands", top: Math.round(box.top) };

  function ancestors(element) {
    const around = [];
    for (let one = element.parentElement; one; one = one.parentElement) around.push(one);
    return around;
  }

  // What stays in its place while the page scrolls, if what covers is that or in it.
  function holder(element) {
    const fixed = [element, ...ancestors(element)].find((one) =>
      ["fixed", "sticky"].includes(getComputedStyle(one).position),
    );
    if (!fixed) return null;
    return fixed.localName + (fixed.id ? `#${fixed.id}` : "") + (fixed.classList[0] ? `.${fixed.classList[0]}` : "");
  }
};
