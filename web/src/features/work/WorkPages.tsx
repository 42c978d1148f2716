import { Outlet } from "react-router";
import { SubPages } from "@/features/site/SubPages";
import { t } from "@/texts/work";

/** The pages of work: how chips are moved, the tasks of each plot, and the days for them. */
export function WorkPages() {
  return (
    <>
      <SubPages
        title={t("work")}
        part="work"
        pages={[
          ["", t("moving")],
          ["/tasks", t("tasks")],
          ["/days", t("days")],
        ]}
      />
      <Outlet />
    </>
  );
}
