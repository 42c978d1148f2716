import { expect, it } from "vitest";

const sources = import.meta.glob<string>(["../src/**/*.ts", "../src/**/*.tsx", "!../src/api/schema.gen.ts"], {
  eager: true,
  query: "?raw",
  import: "default",
});

/** Adverbs and participles, which say nothing of what is called by them. */
const VAGUE =
  "above across again alike alone along apart asked at away back below beside between done due even far found given gone held here inside later learned near off over own put said seen sent served shown still taken taught then there together told under up wanted whole within without one made kept mine";

it("calls what is declared by a noun, and what is done by a verb", () => {
  const declared = new RegExp(`\\b(?:const|let|function) (?:${VAGUE.replaceAll(" ", "|")})\\b`, "g");
  const offenders = Object.entries(sources).flatMap(([file, text]) =>
    [...text.matchAll(declared)].map(([words]) => `${file}: ${words}`),
  );
  expect(offenders).toEqual([]);
});
