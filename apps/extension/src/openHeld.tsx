import { createRoot } from 'react-dom/client';
import { Held } from './Held';
import { followTheme } from './theme';
import './styles.css';

followTheme();
createRoot(document.getElementById('root')!).render(<Held />);
