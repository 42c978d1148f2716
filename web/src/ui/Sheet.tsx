import { X } from "lucide-react";
import type { ReactNode } from "react";
import { Dialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import { t } from "@/texts/ui";
import { Button } from "@/ui/Button";

interface Props {
  title: string;
  /** A line above the title. */
  above?: string;
  label?: string;
  close: () => void;
  middle?: boolean;
  children: ReactNode;
}

/** Something looked at over the page: a sheet at its side, from below on a phone, or in the middle. */
export function Sheet({ title, above, label, close, middle = false, children }: Props) {
  return (
    <ModalOverlay
      isOpen
      isDismissable
      onOpenChange={(open) => (open ? undefined : close())}
      className={`fixed inset-0 z-40 flex bg-black/45 ${middle ? "items-center justify-center p-4" : "items-end justify-end"}`}
    >
      <Modal
        className={
          middle
            ? "max-h-[90dvh] w-full max-w-xl overflow-y-auto rounded-box bg-base-100"
            : "max-h-[90dvh] w-full overflow-y-auto border-l-4 border-primary bg-base-100 sm:h-full sm:max-h-none sm:w-[34rem]"
        }
      >
        <Dialog className="flex flex-col gap-4 p-5 outline-none" {...(label ? { "aria-label": label } : {})}>
          <header className="flex items-start justify-between gap-4">
            <div>
              {above ? <p className="text-sm text-base-content/75">{above}</p> : null}
              <Heading slot={label ? undefined : "title"} className="text-xl">
                {title}
              </Heading>
            </div>
            <Button ghost square aria-label={t("close")} onClick={close}>
              <X size={20} />
            </Button>
          </header>
          {children}
        </Dialog>
      </Modal>
    </ModalOverlay>
  );
}
