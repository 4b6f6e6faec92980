import { read, sendKept } from './desk';

const RETRY = 'send-kept';

async function work(): Promise<void> {
  const { kept } = await read();
  if (kept.length) await sendKept();
  const left = (await read()).kept.length;
  await chrome.action.setBadgeText({ text: left ? String(left) : '' });
  await chrome.action.setBadgeBackgroundColor({ color: '#9a5b00' });
}

chrome.runtime.onInstalled.addListener(() => void chrome.alarms.create(RETRY, { periodInMinutes: 0.5 }));
chrome.runtime.onStartup.addListener(() => void chrome.alarms.create(RETRY, { periodInMinutes: 0.5 }));
chrome.alarms.onAlarm.addListener(() => void work());
chrome.storage.onChanged.addListener((changes) => {
  if ('kept' in changes) void work();
});
