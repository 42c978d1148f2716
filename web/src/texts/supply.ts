import { catalogue } from "./catalogue";
import en from "./en/supply.json";

export const t = catalogue("supply", en);
