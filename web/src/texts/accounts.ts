import { catalogue } from "./catalogue";
import en from "./en/accounts.json";

export const t = catalogue("accounts", en);
