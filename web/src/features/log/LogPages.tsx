import { Outlet } from "react-router";
import { SubPages } from "@/features/site/SubPages";
import { t } from "@/texts/log";

/** The pages of the log: its entries, what readings teach, and looking back. */
export function LogPages() {
  return (
    <>
      <SubPages
        title={t("log")}
        part="log"
        pages={[
          ["", t("entries")],
          ["/learning", t("learning")],
          ["/past", t("lookingBack")],
        ]}
      />
      <Outlet />
    </>
  );
}
