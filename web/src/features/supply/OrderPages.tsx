import { Outlet } from "react-router";
import { SubPages } from "@/features/site/SubPages";
import { t } from "@/texts/supply";

/** The pages about getting chips: what to order, offers, piles, and the quote. */
export function OrderPages() {
  return (
    <>
      <SubPages
        title={t("order")}
        part="order"
        pages={[
          ["", t("loads")],
          ["/offers", t("offersHeading")],
          ["/piles", t("pilesAndDeliveries")],
          ["/quote", t("quote")],
        ]}
      />
      <Outlet />
    </>
  );
}
