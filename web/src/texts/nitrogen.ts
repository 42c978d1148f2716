import { catalogue } from "./catalogue";
import en from "./en/nitrogen.json";

export const t = catalogue("nitrogen", en);
