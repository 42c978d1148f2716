import { catalogue } from "./catalogue";
import en from "./en/materials.json";

export const t = catalogue("materials", en);
