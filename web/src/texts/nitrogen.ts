import en from "@texts/en/nitrogen.json";
import { catalogue } from "./catalogue";

export const t = catalogue("nitrogen", en);
