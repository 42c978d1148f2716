import en from "@texts/en/schedule.json";
import { catalogue } from "./catalogue";

export const t = catalogue("schedule", en);
