import { createRoot } from 'react-dom/client';
import { Held } from './Held';
import { followTheme } from './theme';
import './styles.css';

followTheme();
// A page that puts it into itself shows nothing of it.
if (window.top === window) createRoot(document.getElementById('root')!).render(<Held />);
