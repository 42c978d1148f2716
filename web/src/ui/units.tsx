import { createContext, useContext } from "react";
import type { UnitSystem } from "@/api/schema.gen";

/** The units figures are shown in: the reader's own choice, else the site's. */
export const Units = createContext<UnitSystem>("metric");
export const useUnits = () => useContext(Units);
