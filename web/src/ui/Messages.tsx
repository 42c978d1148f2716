import { useEffect } from "react";
import { Toaster, toast } from "sonner";
import { messagesReady } from "./undo";

/** Short messages at the foot of the page. */
export function Messages() {
  useEffect(() => {
    messagesReady(toast);
    return () => messagesReady(null);
  }, []);
  return (
    <Toaster
      position="bottom-center"
      offset={{ bottom: 24 }}
      mobileOffset={{ bottom: 80 }}
      toastOptions={{
        unstyled: true,
        classNames: {
          toast:
            "flex w-full items-center justify-between gap-3 rounded-box border-2 border-base-content bg-base-100 p-3 shadow-lg",
          actionButton: "btn btn-primary press order-last",
        },
      }}
    />
  );
}
