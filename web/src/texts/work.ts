import en from "@texts/en/work.json";
import { catalogue } from "./catalogue";

export const t = catalogue("work", en);
