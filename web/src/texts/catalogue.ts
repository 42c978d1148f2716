import i18next from "i18next";
import { initReactI18next } from "react-i18next";
import { numberFormat } from "@/ui/intl";

const LANGUAGE = "en";

void i18next.use(initReactI18next).init({
  lng: LANGUAGE,
  resources: {},
  initAsync: false,
  keySeparator: false,
  nsSeparator: false,
  interpolation: { escapeValue: false },
});

// The reader's own way of writing numbers, not that of the language of the texts.
i18next.services.formatter?.add("number", (value: number) => numberFormat({ maximumFractionDigits: 1 }).format(value));

type Texts = Record<string, string>;
type Key<Shipped extends Texts> = {
  [K in keyof Shipped & string]: K extends `${infer Stem}_one` | `${infer Stem}_other` ? Stem : K;
}[keyof Shipped & string];

/** The texts of a feature: `t("key", { values })`. Each feature ships its own, so that a page loads what it says. */
export function catalogue<Shipped extends Texts>(feature: string, shipped: Shipped) {
  i18next.addResourceBundle(LANGUAGE, feature, shipped);
  return (key: Key<Shipped>, values?: Record<string, string | number | null | undefined>): string =>
    i18next.t(key, { ns: feature, ...values });
}
