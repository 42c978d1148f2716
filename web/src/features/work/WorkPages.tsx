import { Outlet } from "react-router";
import { SubPages } from "@/features/site/SubPages";
import { t } from "@/texts/work";

/** The pages of work: how chips are moved, the tasks of each plot, their days, and opened rows. */
export function WorkPages() {
  return (
    <>
      <SubPages
        title={t("work")}
        part="work"
        pages={[
          ["", t("moving")],
          ["/tasks", t("tasks")],
          ["/calendar", t("calendarPage")],
          ["/rows", t("rows")],
          ["/machines", t("machineOrHand")],
        ]}
      />
      <Outlet />
    </>
  );
}
