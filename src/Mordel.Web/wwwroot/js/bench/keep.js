// A bench under way survives a closed page: its recording, and what was said to the sheet, are kept on this device
// until it is handed in or put away.
const name = key => `bench ${key}`;
const read = key => {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
};

/** Keeps a recording; what is told with it stands on the bench's page so that it can be taken up again. */
export const keepRecording = (key, recording, words = [], about = null) => {
  try {
    localStorage.setItem(name(key), recording);
    localStorage.setItem(`${name(key)} words`, JSON.stringify(words));
    if (about) localStorage.setItem('bench left', JSON.stringify({ key, ...about }));
  } catch {
    /* a full or forbidden store loses only the way back */
  }
};
export const keptRecording = key => read(name(key));
export const keptWords = key => {
  try {
    return JSON.parse(read(`${name(key)} words`) ?? '[]');
  } catch {
    return [];
  }
};
export const dropRecording = key => {
  try {
    localStorage.removeItem(name(key));
    localStorage.removeItem(`${name(key)} words`);
    if (left()?.key === key) localStorage.removeItem('bench left');
  } catch {
    /* nothing was kept */
  }
};

/** The bench that was left last and is not finished; null when there is none. */
export const left = () => {
  try {
    const kept = JSON.parse(read('bench left') ?? 'null');
    return kept && read(name(kept.key)) ? kept : null;
  } catch {
    return null;
  }
};
