import { readyPopUps } from './popUps';
import { fillFromLink, readyStages } from './stages';
import { showOwnTimes } from './zones';

/** What parts of a page do beyond plain HTML: videos play in place, carousels turn, links are passed on, pop-ups open. */
function playVideo(link: HTMLAnchorElement): void {
  const title = link.getAttribute('aria-label') ?? 'Video';
  if (link.dataset.video === 'file') {
    const video = document.createElement('video');
    video.src = link.href;
    video.controls = true;
    video.autoplay = true;
    video.playsInline = true;
    video.setAttribute('aria-label', title);
    video.addEventListener('error', () => link.replaceWith(Object.assign(document.createElement('p'), { textContent: 'This video cannot be played here.' })));
    put(link, video);
    void video.play().catch(() => {
      // The browser wants one more press, on the controls that stand there now.
    });
    return;
  }
  const frame = document.createElement('iframe');
  frame.src = link.href;
  frame.title = title;
  frame.allow = 'autoplay; fullscreen; picture-in-picture';
  frame.setAttribute('sandbox', 'allow-scripts allow-same-origin allow-presentation allow-popups');
  put(link, frame);
}

/** Puts a player where its picture was, with the keyboard on it. */
function put(link: HTMLAnchorElement, player: HTMLElement): void {
  const holder = document.createElement('div');
  holder.className = link.className;
  holder.append(player);
  link.replaceWith(holder);
  player.focus();
}

function turn(button: HTMLElement): void {
  const list = button.closest('[data-carousel]')?.querySelector('ul');
  const step = list?.querySelector('li')?.getBoundingClientRect().width ?? 0;
  list?.scrollBy({ left: Number(button.dataset.turn) * (step + 24), behavior: matchMedia('(prefers-reduced-motion:reduce)').matches ? 'auto' : 'smooth' });
}

async function passOn(button: HTMLElement): Promise<void> {
  const box = button.closest<HTMLElement>('[data-share-address]');
  const said = box?.querySelector('[role=status]');
  const { shareAddress: url = '', shareMessage: text = '', shareTitle: title = '' } = box?.dataset ?? {};
  if (button.dataset.share === 'device') {
    await navigator.share({ url, text, title }).catch(() => {
      // Closed again without sharing.
    });
    return;
  }
  const done = await navigator.clipboard?.writeText(url).then(
    () => true,
    () => false,
  );
  if (said) said.textContent = done ? 'The link is copied.' : 'Copy the address that stands above.';
}

document.addEventListener('click', (event) => {
  const target = event.target as Element;
  const video = target.closest<HTMLAnchorElement>('a[data-video]');
  if (video && !event.metaKey && !event.ctrlKey) {
    event.preventDefault();
    playVideo(video);
  }
  const arrow = target.closest<HTMLElement>('[data-turn]');
  if (arrow) turn(arrow);
  const share = target.closest<HTMLElement>('[data-share]');
  if (share) void passOn(share);
});
for (const buttons of document.querySelectorAll<HTMLElement>('.carousel-buttons')) buttons.hidden = false;
for (const button of document.querySelectorAll<HTMLElement>('[data-share]')) button.hidden = button.dataset.share === 'device' && !('share' in navigator);
for (const times of document.querySelectorAll<HTMLElement>('[data-zone]')) showOwnTimes(times);
readyPopUps();
readyStages();
fillFromLink();
