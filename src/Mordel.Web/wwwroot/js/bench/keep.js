// A bench under way survives a closed page: its tape is kept on this device until it is handed in.
const name = key => `bench ${key}`;

export const keepTape = (key, tape) => { try { localStorage.setItem(name(key), tape); } catch { /* a full or forbidden store loses only the way back */ } };
export const keptTape = key => { try { return localStorage.getItem(name(key)); } catch { return null; } };
export const dropTape = key => { try { localStorage.removeItem(name(key)); } catch { /* nothing was kept */ } };
