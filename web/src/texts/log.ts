import en from "@texts/en/log.json";
import { catalogue } from "./catalogue";

export const t = catalogue("log", en);
