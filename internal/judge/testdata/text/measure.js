// Measures texts in a browser: widths on a canvas, and lines in a paragraph.
const family = FAMILY.map((name) => `"${name}"`).join(", ");
(async () => {
  await Promise.all(FAMILY.map((name) => document.fonts.load(`16px "${name}"`, "aΩЯعאहกあ")));
  await document.fonts.ready;
  const pen = document.createElement("canvas").getContext("2d");
  const widths = STRINGS.map(({ lang, text, size }) => {
    document.documentElement.lang = lang;
    pen.font = `${size}px ${family}`;
    return pen.measureText(text).width;
  });
  const paragraphs = PARAGRAPHS.map(({ lang, dir, text, width }) => {
    const p = document.createElement("p");
    Object.assign(p.style, { width: `${width}px`, font: `16px/40px ${family}`, margin: "0" });
    Object.assign(p, { lang, dir, textContent: text });
    document.body.append(p);
    const lines = [];
    let top = null;
    let at = 0;
    for (const character of text) {
      const range = document.createRange();
      range.setStart(p.firstChild, at);
      range.setEnd(p.firstChild, at + character.length);
      at += character.length;
      const rect = [...range.getClientRects()].pop();
      if (rect && /\S/u.test(character) && (top === null || rect.top > top + 20)) {
        top = rect.top;
        lines.push("");
      }
      lines[lines.length - 1] += character;
    }
    p.remove();
    return lines.map((line) => line.trim());
  });
  const out = document.createElement("pre");
  out.id = "out";
  out.textContent = JSON.stringify({ widths, paragraphs });
  document.body.replaceChildren(out);
})();
