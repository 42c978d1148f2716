import { t as log } from "@/texts/log";
import { t as supply } from "@/texts/supply";
import { t as work } from "@/texts/work";
import { SubPages } from "./SubPages";

/** The pages of the log: its entries, what readings teach, and looking back. */
export function LogPages() {
  const pages: [string, string][] = [
    ["", log("entries")],
    ["/learning", log("learning")],
    ["/past", log("lookingBack")],
  ];
  return <SubPages title={log("log")} part="log" pages={pages} />;
}

/** The pages about getting chips: what to order, offers, piles, and the quote. */
export function OrderPages() {
  const pages: [string, string][] = [
    ["", supply("loads")],
    ["/offers", supply("offersHeading")],
    ["/piles", supply("pilesAndDeliveries")],
    ["/quote", supply("quote")],
  ];
  return <SubPages title={supply("order")} part="order" pages={pages} />;
}

/** The pages of work: how chips are moved, the tasks of each plot, their days, and opened rows. */
export function WorkPages() {
  const pages: [string, string][] = [
    ["", work("moving")],
    ["/tasks", work("tasks")],
    ["/calendar", work("calendarPage")],
    ["/rows", work("rows")],
    ["/machines", work("machineOrHand")],
  ];
  return <SubPages title={work("work")} part="work" pages={pages} />;
}
