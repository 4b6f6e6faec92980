import { useEffect } from 'react';
import { useLocation, useNavigate } from 'react-router';

const OPEN = ['task', 'person', 'event', 'date'];
/** Where one was in Lists, without what was open over it. */
let last: string | null = null;

/** Whoever comes to Lists again finds what was shown there. */
export function useComesBack(): void {
  const navigate = useNavigate();
  const { pathname, search } = useLocation();
  useEffect(() => {
    if (pathname === '/lists' && !search && last !== null) void navigate(last, { replace: true });
    // Only as one comes.
  }, []);
  useEffect(() => {
    const query = new URLSearchParams(search);
    for (const one of OPEN) query.delete(one);
    last = `${pathname}${query.size ? `?${query}` : ''}`;
  }, [pathname, search]);
}
