import { useLocation, useNavigate } from 'react-router';
import { redo, undo } from '../data/actions';

/** Undo and redo. On Sort, what comes back to the stack is opened again. */
export function useTurn(): { back: () => void; again: () => void } {
  const navigate = useNavigate();
  const onSort = useLocation().pathname.startsWith('/sort');
  return {
    back: () => {
      void undo().then((answer) => {
        if (onSort && answer?.incoming[0]) void navigate(`/sort/${answer.incoming[0]}`, { replace: true });
      });
    },
    again: () => void redo(),
  };
}
