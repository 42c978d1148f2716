import en from "@texts/en/accounts.json";
import { catalogue } from "./catalogue";

export const t = catalogue("accounts", en);
