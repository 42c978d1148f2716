import en from "@texts/en/money.json";
import { catalogue } from "./catalogue";

export const t = catalogue("money", en);
