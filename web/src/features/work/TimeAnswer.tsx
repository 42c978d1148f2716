import type { Crop } from "@/api/schema.gen";
import { t } from "@/texts/work";
import { Button } from "@/ui/Button";
import { day, share } from "@/ui/format";
import { useTimeLeft } from "./rows";

const MOST_INSTEAD = 8;

/** A chance to 5 %; nobody is surer than that. */
function sureWords(chance: number): string {
  if (chance > 0.95) return t("over95");
  return chance < 0.05 ? t("under5") : share(Math.round(chance * 20) / 20);
}

interface Props {
  crop: string;
  crops: Crop[];
  on: string;
  choose: (crop: string) => void;
}

/** Whether there is still time for a crop before frost, how sure that is, and what to sow instead. */
export function TimeAnswer({ crop, crops, on, choose }: Props) {
  const answer = useTimeLeft(crop, on);
  if (!answer.data) return null;
  const { time, in_time, instead } = answer.data;
  const nameOf = (key: string) => crops.find((other) => other.key === key)?.name ?? key;
  const values = { sure: sureWords(time.sure), ends: time.ends_on ? day(time.ends_on) : "" };
  return (
    <div
      className={`border-l-4 p-2 ${in_time ? "border-secondary" : "border-error"}`}
      data-testid="time-left"
      role="status"
    >
      <p>
        <strong>{in_time ? t("thereIsTime") : time.too_early ? t("tooEarlyInTheYear") : t("thereIsNoTime")}</strong>{" "}
        {t("readyBetween", {
          ready: day(time.ready),
          early: day(time.ready_early),
          late: day(time.ready_late),
        })}{" "}
        {time.too_early
          ? t("frostKillsSeedlings")
          : time.ends_on
            ? t("sureBeforeFrost", values)
            : t("noFrostEndsIt", values)}
      </p>
      {in_time && time.last_on ? <p>{t("lastDayToStart", { day: day(time.last_on) })}</p> : null}
      {!in_time && time.first_on ? <p>{t("thereIsTimeFrom", { day: day(time.first_on) })}</p> : null}
      {time.again_on.length > 0 ? (
        <p>{t("sowAgain", { days: time.again_on.map((iso) => day(iso)).join(", ") })}</p>
      ) : null}
      {!in_time ? (
        instead.length > 0 ? (
          <div className="pt-1">
            <p>{t("stillRipens")}</p>
            <ul className="flex flex-wrap gap-2">
              {instead.slice(0, MOST_INSTEAD).map((other) => (
                <li key={other.crop}>
                  <Button small onClick={() => choose(other.crop)}>
                    {nameOf(other.crop)}, {day(other.ready)}
                  </Button>
                </li>
              ))}
            </ul>
          </div>
        ) : (
          <p>{t("nothingRipensNow")}</p>
        )
      ) : null}
    </div>
  );
}
