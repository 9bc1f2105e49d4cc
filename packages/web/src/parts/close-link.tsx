import { X } from 'lucide-react';
import { Link, type To } from 'react-router';

/** The way from a panel back to its table; on a small screen the panel covers it. */
export const CloseLink = ({ to, name }: { readonly to: To; readonly name: string }) => (
  <Link to={to} className="btn btn-ghost btn-xs btn-square ml-auto shrink-0" aria-label={`Close ${name}`}>
    <X size={13} aria-hidden />
  </Link>
);
