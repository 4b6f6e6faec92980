/** What of the page in front is filled in. */
export interface Page {
  title: string;
  url: string;
  selection: string;
}

const MOST_SELECTED = 20_000;

/** The tab the window was opened on: the active one, or the one named in the address of a window of its own. */
async function tabInFront(): Promise<chrome.tabs.Tab | undefined> {
  const named = Number(new URLSearchParams(location.search).get('tab'));
  if (named) return chrome.tabs.get(named);
  const [tab] = await chrome.tabs.query({ active: true, currentWindow: true });
  return tab;
}

/** Title, address and selected text of the page in front; empty where the browser shows none of it. */
export async function pageInFront(): Promise<Page> {
  const tab = await tabInFront().catch(() => undefined);
  const url = /^https?:/.test(tab?.url ?? '') ? (tab?.url ?? '') : '';
  if (!tab?.id || !url) return { title: '', url: '', selection: '' };
  const [found] = await chrome.scripting
    .executeScript({ target: { tabId: tab.id }, func: () => String(getSelection() ?? '') })
    .catch(() => []);
  return { title: tab.title ?? '', url, selection: (found?.result ?? '').trim().slice(0, MOST_SELECTED) };
}
