import en from "@texts/en/recipe.json";
import { catalogue } from "./catalogue";

export const t = catalogue("recipe", en);
