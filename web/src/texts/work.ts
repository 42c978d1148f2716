import { catalogue } from "./catalogue";
import en from "./en/work.json";

export const t = catalogue("work", en);
