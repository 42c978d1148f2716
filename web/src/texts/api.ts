import { catalogue } from "./catalogue";
import en from "./en/api.json";

export const t = catalogue("api", en);
