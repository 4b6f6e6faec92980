import { createRoot } from 'react-dom/client';
import { Popup } from './Popup';
import { followTheme } from './theme';
import './styles.css';

followTheme();
createRoot(document.getElementById('root')!).render(<Popup />);
