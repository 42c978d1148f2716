import { catalogue } from "./catalogue";
import en from "./en/survey.json";

export const t = catalogue("survey", en);
