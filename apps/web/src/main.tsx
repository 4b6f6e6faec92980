import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { App } from './App';
import { client } from './data/queries';
import { refuseStrayFiles } from './parts/strayFiles';
import { loadAt } from './places';
import { followTheme } from './state/settings';
import './styles/main.css';

followTheme();
refuseStrayFiles();
loadAt(window.location.pathname);
// Not as a transition: a key pressed before a delayed navigation is through would act on what was shown before.
const USE_TRANSITIONS = false;
const root = document.getElementById('root');
if (!root) throw new Error('The page has no place for the application.');
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <BrowserRouter useTransitions={USE_TRANSITIONS}>
        <App />
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
