import { Link } from 'react-router';
import { useLanding } from './pages/use-landing.ts';

/** The way to the landing, with how much lies there. */
export function LandingLink() {
  const { data } = useLanding();
  return (
    <Link to="/landing" className="whitespace-nowrap font-serif text-[15px] text-muted hover:text-ink">
      Landing{data && data.length > 0 ? ` (${data.length})` : ''}
    </Link>
  );
}
