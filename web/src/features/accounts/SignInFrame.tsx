import type { ReactNode } from "react";
import { Mark } from "@/app/Mark";
import { Textures, textureOf } from "@/features/survey/texture";
import { t } from "@/texts/accounts";

/** The page round signing in and up: what the tool answers on one side, the form on the other. */
export function SignInFrame({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="grid min-h-dvh lg:grid-cols-[1.1fr_1fr]">
      <section className="hidden flex-col justify-between bg-primary p-12 text-primary-content lg:flex">
        <p className="flex items-center gap-3">
          <span className="rounded-full bg-base-100 p-1.5">
            <Mark size={32} />
          </span>
          <span className="display text-2xl">{t("ulmatic")}</span>
        </p>
        <div className="max-w-lg space-y-6">
          <p className="display text-5xl leading-[1.05]">{t("howManyLoadsBeforeTheTruck")}</p>
          <p className="text-xl">{t("typeYourMeasurementsUlmaticCalculatesVolume")}</p>
          <Depths />
        </div>
        <p className="text-sm opacity-90">{t("theFiguresSupportYourJudgementLocal")}</p>
      </section>
      <main className="flex items-center justify-center p-5 sm:p-10">
        <div className="w-full max-w-md space-y-5">
          <p className="flex items-center gap-2 lg:hidden">
            <Mark />
            <span className="display text-xl">{t("ulmatic")}</span>
          </p>
          <h1 className="text-3xl">{title}</h1>
          {children}
        </div>
      </main>
    </div>
  );
}

const DEPTHS_MM = [0, 25, 50, 75, 100, 125, 150];

/** The product's own mark of depth: bare soil to well covered. */
function Depths() {
  return (
    <svg viewBox="0 0 490 84" className="w-full" role="img" aria-label={t("moreFlecksMeanDeeperMulch")}>
      <Textures />
      {DEPTHS_MM.map((mm, index) => (
        <rect key={mm} x={index * 70} width={71} height={84} fill={textureOf(mm)} />
      ))}
    </svg>
  );
}
