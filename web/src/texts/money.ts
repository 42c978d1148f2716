import { catalogue } from "./catalogue";
import en from "./en/money.json";

export const t = catalogue("money", en);
