import { catalogue } from "./catalogue";
import en from "./en/site.json";

export const t = catalogue("site", en);
