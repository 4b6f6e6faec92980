import { StrictMode, type ReactNode } from 'react';
import { createRoot } from 'react-dom/client';
import { BookingPage } from './BookingPage';
import { MeetPage } from './MeetPage';
import { OfferPage } from './OfferPage';
import { Sheet } from './parts';
import './styles.css';

const dark = matchMedia('(prefers-color-scheme: dark)');
const follow = () => {
  document.documentElement.dataset['theme'] = dark.matches ? 'dark' : 'light';
};
follow();
dark.addEventListener('change', follow);

/** The page of an address. */
function pageAt([what, link = '', booking]: string[]): ReactNode {
  if (what === 'meet' && booking) return <BookingPage link={booking} />;
  if (what === 'meet' && link) return <MeetPage link={link} />;
  if (what === 'offer' && link) return <OfferPage link={link} />;
  return (
    <Sheet host="Corvun" title="Nothing here">
      {null}
    </Sheet>
  );
}

const root = document.getElementById('root');
if (root) createRoot(root).render(<StrictMode>{pageAt(location.pathname.split('/').filter(Boolean))}</StrictMode>);
