import en from "@texts/en/site.json";
import { catalogue } from "./catalogue";

export const t = catalogue("site", en);
