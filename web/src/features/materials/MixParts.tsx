import { Plus, X } from "lucide-react";
import { t } from "@/texts/materials";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { MaterialSelect } from "./MaterialSelect";

export interface MixPart {
  key: string;
  material: string;
  amount: string;
}

const MOST_PARTS = 12;

interface Props {
  workspaceId: string;
  parts: MixPart[];
  change: (parts: MixPart[]) => void;
  /** What the amounts are called, and their unit. */
  amount: string;
  unit: string;
  /** What another part is at first. */
  added: Omit<MixPart, "key">;
  errorAt: (index: number, name: "material" | "amount") => string | undefined;
  /** A material that cannot be part of it. */
  without?: string | undefined;
}

/** What a mixture is made of: materials, and how much of each. */
export function MixParts({ workspaceId, parts, change, amount, unit, added, errorAt, without }: Props) {
  const set = (key: string, next: Partial<MixPart>) =>
    change(parts.map((part) => (part.key === key ? { ...part, ...next } : part)));
  return (
    <div className="space-y-2">
      {parts.map((part, index) => (
        <div key={part.key} className="grid grid-cols-[1fr_7rem_auto] items-start gap-2">
          <MaterialSelect
            workspaceId={workspaceId}
            label={t("part", { number: index + 1 })}
            value={part.material}
            error={errorAt(index, "material")}
            without={without}
            change={(material) => set(part.key, { material })}
          />
          <TextField
            label={amount}
            unit={unit}
            value={part.amount}
            onChange={(text) => set(part.key, { amount: text })}
            error={errorAt(index, "amount")}
          />
          <Button
            ghost
            square
            className="mt-6"
            aria-label={t("removePart", { number: index + 1 })}
            disabled={parts.length < 2}
            onClick={() => change(parts.filter((other) => other.key !== part.key))}
          >
            <X size={18} />
          </Button>
        </div>
      ))}
      <Button
        small
        disabled={parts.length >= MOST_PARTS}
        onClick={() => change([...parts, { key: crypto.randomUUID(), ...added }])}
      >
        <Plus size={15} /> {t("partHeading")}
      </Button>
    </div>
  );
}
