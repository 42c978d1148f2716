import en from "@texts/en/ui.json";
import { catalogue } from "./catalogue";

export const t = catalogue("ui", en);
