import { createRoot } from 'react-dom/client';
import { Options } from './Options';
import { followTheme } from './theme';
import './styles.css';

followTheme();
createRoot(document.getElementById('root')!).render(<Options />);
