import { read, sendKept } from './desk';
import { TURN, hear, hold, tellLets } from './hold';
import { siteOf, type Let } from './quiet';

const RETRY = 'send-kept';

async function work(): Promise<void> {
  const { kept } = await read();
  if (kept.length) await sendKept();
  const left = (await read()).kept.length;
  await chrome.action.setBadgeText({ text: left ? String(left) : '' });
  await chrome.action.setBadgeBackgroundColor({ color: '#9a5b00' });
}

/** Looks of before are told first, so that what is heard after it counts them. */
async function watch(): Promise<void> {
  await tellLets();
  await hear();
  await hold();
}

/** A page on a site that may be held back: a quiet time that began just now is known before it is looked at. */
async function look(address: string | undefined): Promise<void> {
  const { quiet } = await read();
  const sites = [...(quiet?.sites ?? []), ...(quiet?.quiet?.sites ?? []), ...(quiet?.next?.sites ?? [])];
  if (!address || !siteOf(address, sites)) return;
  await hear();
  await hold();
}

function begin(): void {
  void chrome.alarms.create(RETRY, { periodInMinutes: 0.5 });
  void watch();
}

chrome.runtime.onInstalled.addListener(begin);
chrome.runtime.onStartup.addListener(begin);
chrome.alarms.onAlarm.addListener(({ name }) => void (name === TURN ? hold() : Promise.all([work(), watch()])));
chrome.storage.onChanged.addListener((changes) => {
  if ('kept' in changes) void work();
  const lets = (changes['lets']?.newValue ?? []) as Let[];
  if ('link' in changes || lets.some(({ told }) => !told)) void watch();
  if ('quiet' in changes) void hold();
});
chrome.tabs.onUpdated.addListener((_id, { url }) => void look(url));
chrome.tabs.onActivated.addListener(({ tabId }) => {
  void chrome.tabs.get(tabId).then(
    ({ url }) => look(url),
    () => undefined,
  );
});
