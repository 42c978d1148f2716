import en from "@texts/en/materials.json";
import { catalogue } from "./catalogue";

export const t = catalogue("materials", en);
