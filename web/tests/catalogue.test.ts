import { describe, expect, it } from "vitest";
import { t as site } from "@/texts/site";

const catalogues = import.meta.glob<Record<string, string>>("../../src/ulmatic/texts/en/*.json", {
  eager: true,
  import: "default",
});
const texts = Object.entries(catalogues).flatMap(([file, texts]) =>
  Object.entries(texts).map(([key, text]) => ({ name: `${file.split("/").pop()} ${key}`, key, text })),
);

/** Words at which a reader with English as a second language would stop, or for which the glossary has another. */
const QUAINT =
  /lies there now|wanted, settled|which ground gets it|sure to be enough|reckon|does not come|nowhere to go|\bsigns\b|until now|what else would do|promise|where it went|\bnobody\b|\bsomebody\b|just now|write it down|take back|taken back|\bheaps?\b|shelf|on this very|who believes|what to mind|as it comes|worries|as proposed|as kept|of one's own|come unasked|for nothing|as spread/i;

describe("the catalogue of texts", () => {
  it("is there for every feature", () => {
    expect(texts.length).toBeGreaterThan(1200);
  });

  it("is in plain words", () => {
    const quaint = texts.filter(({ text }) => QUAINT.test(text.replace(/\{\{.*?\}\}/g, "")));
    expect(quaint.map(({ name, text }) => `${name}: ${text}`)).toEqual([]);
  });

  it("has both halves of each plural", () => {
    const keys = new Set(texts.map(({ key }) => key));
    const stems = [...keys].flatMap((key) => /^(.*)_(?:one|other)$/.exec(key)?.[1] ?? []);
    expect(stems.filter((stem) => !keys.has(`${stem}_one`) || !keys.has(`${stem}_other`))).toEqual([]);
  });

  it("tells one from many, and puts values in", () => {
    expect(site("loads", { count: 1 })).toBe("1 load");
    expect(site("loads", { count: 1200 })).toBe("1,200 loads");
    expect(site("next", { part: "Work" })).toBe("Next: Work");
  });
});
