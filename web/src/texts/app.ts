import en from "@texts/en/app.json";
import { catalogue } from "./catalogue";

export const t = catalogue("app", en);
