import { ArrowLeft } from "lucide-react";
import { Link } from "react-router";

/** The way back from a page that stands below another. */
export function Back({ to, children }: { to: string; children: string }) {
  return (
    <Link to={to} className="link press -mb-2 inline-flex items-center gap-1">
      <ArrowLeft size={16} /> {children}
    </Link>
  );
}
