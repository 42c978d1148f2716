import { catalogue } from "./catalogue";
import en from "./en/app.json";

export const t = catalogue("app", en);
