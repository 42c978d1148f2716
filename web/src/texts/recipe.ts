import { catalogue } from "./catalogue";
import en from "./en/recipe.json";

export const t = catalogue("recipe", en);
