/** The site's own page of a video, as its viewers have it: a player, a button for captions, a menu of languages. */
import type { SiteVideo } from '$lib/server/sites/simulated/protocol';

const text = (raw: string): string =>
  raw.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

export function watchPage({ id, title, captions }: SiteVideo): string {
  const shown = captions.filter(({ state }) => state === 'published' || state === 'automatic');
  const tracks = shown.map(
    ({ id: captionId, language, name, kind, isDefault }) =>
      `<track id="${captionId}" kind="${kind}" srclang="${text(language)}" label="${text(name)}" src="/watch/${id}/${captionId}.vtt"${isDefault ? ' default' : ''}>`
  );
  const items = shown.map(
    ({ id: captionId, name, language }) =>
      `<button role="menuitemradio" data-track="${captionId}" aria-checked="false" lang="${text(language)}">${text(name)}</button>`
  );
  return `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${text(title)}</title>
<link rel="stylesheet" href="/watch.css">
<main>
  <video src="/media/${id}" preload="auto" playsinline>${tracks.join('')}</video>
  <div class="bar">
    <button id="play" aria-label="Play or pause">▶</button>
    <input id="seek" type="range" min="0" max="1000" value="0" aria-label="Where in the video">
    <span id="time">0:00</span>
    <button id="captions" aria-haspopup="menu" aria-expanded="false"${shown.length === 0 ? ' disabled' : ''}>Captions: off</button>
    <div id="menu" role="menu" aria-label="Captions" hidden>
      <button role="menuitemradio" data-track="" aria-checked="true">Off</button>${items.join('')}
    </div>
  </div>
  <h1>${text(title)}</h1>
  <p>Merrowby Museum Channel</p>
</main>
<script src="/watch.js"></script>
</html>`;
}

export const WATCH_CSS = `
:root { color-scheme: light dark; font: 15px/1.4 system-ui, sans-serif; }
body { margin: 0; background: #eef1f4; color: #17212b; }
main { max-width: 960px; margin: 0 auto; padding: 0 0 12px; }
video { display: block; width: 100%; aspect-ratio: 16 / 9; background: #000; }
.bar { position: relative; display: flex; gap: 10px; align-items: center; padding: 8px 12px; background: #17212b; color: #fff; }
button { padding: 5px 10px; border: 1px solid #6c7c8c; border-radius: 3px; background: none; color: inherit; font: inherit; }
button:focus-visible, input:focus-visible { outline: 2px solid #ffb454; outline-offset: 1px; }
#seek { flex: 1; }
#menu { position: absolute; right: 12px; bottom: 100%; display: grid; min-width: 190px; padding: 4px; background: #17212b; }
#menu[hidden] { display: none; }
#menu button { border: 0; text-align: left; }
#menu button[aria-checked='true']::before { content: '✓ '; }
h1 { margin: 10px 12px 2px; font-size: 18px; }
p { margin: 0 12px; opacity: 0.75; }
@media (prefers-color-scheme: dark) { body { background: #0e141a; color: #e8edf2; } }
`;

export const WATCH_JS = `
const video = document.querySelector('video');
const tracks = [...document.querySelectorAll('track')];
const button = document.getElementById('captions');
const menu = document.getElementById('menu');
const seek = document.getElementById('seek');
function choose(id) {
  for (const track of tracks) track.track.mode = track.id === id ? 'showing' : 'disabled';
  for (const item of menu.children) item.setAttribute('aria-checked', String(item.dataset.track === id));
  const chosen = tracks.find((track) => track.id === id);
  button.textContent = 'Captions: ' + (chosen ? chosen.label : 'off');
}
function open(isOpen) {
  menu.hidden = !isOpen;
  button.setAttribute('aria-expanded', String(isOpen));
}
button.onclick = () => open(menu.hidden);
menu.onclick = (event) => {
  const item = event.target.closest('[data-track]');
  if (item) { choose(item.dataset.track); open(false); }
};
document.getElementById('play').onclick = () => (video.paused ? video.play() : video.pause());
video.ontimeupdate = () => {
  seek.value = video.duration ? (video.currentTime / video.duration) * 1000 : 0;
  const whole = Math.floor(video.currentTime);
  document.getElementById('time').textContent = Math.floor(whole / 60) + ':' + String(whole % 60).padStart(2, '0');
};
seek.oninput = () => { if (video.duration) video.currentTime = (seek.value / 1000) * video.duration; };
choose(tracks.find((track) => track.default)?.id ?? '');
`;
