import en from "@texts/en/survey.json";
import { catalogue } from "./catalogue";

export const t = catalogue("survey", en);
