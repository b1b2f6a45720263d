/* Runs first in the preview's frame. The page's own scripts never run there, but its elements could still get in the
   way: `<img name=querySelectorAll>` replaces a member of the document, `<input name=style>` one of its form. */
const signpostFrame = (() => {
  const handler = {
    get(object, name) {
      const value = Reflect.get(Object.getPrototypeOf(object), name, object);
      return typeof value === "function" ? value.bind(object) : value;
    },
    set: (object, name, value) => Reflect.set(Object.getPrototypeOf(object), name, value, object),
  };
  /** An object whose members are those of its interface, whatever elements are named; the object itself where it can be. */
  const plain = (object) => (object === document || object instanceof HTMLFormElement ? new Proxy(object, handler) : object);
  const doc = plain(document);
  const mark = doc.currentScript.getAttribute("data-mark"); // another one each time, so that no page can hold it

  /** Where a link of HTML or SVG leads, in full; "" where it cannot be read. */
  const addressOf = (link) => {
    const written = link.getAttribute("href") ?? link.getAttributeNS("http://www.w3.org/1999/xlink", "href") ?? "";
    try {
      return new URL(written, doc.baseURI).href;
    } catch {
      return "";
    }
  };

  return {
    doc,
    plain,
    addressOf,
    SECTION: `data-${mark}-section`,
    PLACE: `data-${mark}-place`,
    UNTIL: `data-${mark}-until`,
    MEASURED: `data-${mark}-measure`,
    SIZED: `data-${mark}-sized`,
    CONTENT: `data-${mark}-content`,
    tell: (message) => parent.postMessage({ from: "signpost-walk", ...message }, "*"),
  };
})();
