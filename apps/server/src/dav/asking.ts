import type { User } from '../accounts/user.entity';

/** Who asks, and whether they may change anything. */
export interface Asking {
  user: User;
  write: boolean;
}
