import { catalogue } from "./catalogue";
import en from "./en/schedule.json";

export const t = catalogue("schedule", en);
