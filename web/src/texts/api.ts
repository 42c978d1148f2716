import en from "@texts/en/api.json";
import { catalogue } from "./catalogue";

export const t = catalogue("api", en);
