import en from "@texts/en/stock.json";
import { catalogue } from "./catalogue";

export const t = catalogue("stock", en);
