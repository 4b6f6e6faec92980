import { create } from 'zustand';

interface Session {
  online: boolean;
  setOnline: (online: boolean) => void;
}

export const useSession = create<Session>((set) => ({ online: true, setOnline: (online) => set({ online }) }));
