import en from "@texts/en/supply.json";
import { catalogue } from "./catalogue";

export const t = catalogue("supply", en);
