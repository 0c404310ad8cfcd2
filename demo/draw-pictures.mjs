// Draws the demo's pictures of parts: SVG of our own, rendered to JPEG by Debian's Chromium. No photograph from elsewhere.
// Run from the repository's root: node demo/draw-pictures.mjs
import { mkdirSync } from 'node:fs';
import { chromium } from '@playwright/test';

const W = 1200;
const H = 900;

const filters = `
  <filter id="cloth" x="0" y="0" width="100%" height="100%">
    <feTurbulence type="fractalNoise" baseFrequency="0.9 0.7" numOctaves="3" seed="4"/>
    <feColorMatrix values="0 0 0 0 0.5  0 0 0 0 0.5  0 0 0 0 0.48  0 0 0 0.5 0"/>
    <feComposite in2="SourceGraphic" operator="in"/>
  </filter>
  <filter id="brushed" x="-5%" y="-5%" width="110%" height="110%">
    <feTurbulence type="fractalNoise" baseFrequency="0.004 0.55" numOctaves="3" seed="9" result="n"/>
    <feColorMatrix in="n" values="0 0 0 0 0  0 0 0 0 0  0 0 0 0 0  0 0 0 0.9 -0.28"/>
    <feComposite in2="SourceGraphic" operator="in"/>
  </filter>
  <filter id="torn" x="-20%" y="-20%" width="140%" height="140%">
    <feTurbulence type="fractalNoise" baseFrequency="0.012 0.05" numOctaves="4" seed="21" result="n"/>
    <feDisplacementMap in="SourceGraphic" in2="n" scale="70" xChannelSelector="R" yChannelSelector="G"/>
  </filter>
  <filter id="speck" x="-20%" y="-20%" width="140%" height="140%">
    <feTurbulence type="fractalNoise" baseFrequency="0.06" numOctaves="2" seed="7" result="n"/>
    <feDisplacementMap in="SourceGraphic" in2="n" scale="22"/>
  </filter>
  <filter id="soft"><feGaussianBlur stdDeviation="14"/></filter>
  <filter id="shade"><feDropShadow dx="0" dy="16" stdDeviation="18" flood-color="#1a1a18" flood-opacity="0.55"/></filter>
  <linearGradient id="hollow" x1="0" y1="0" x2="0" y2="1">
    <stop offset="0" stop-color="#4f5052"/><stop offset="0.16" stop-color="#8b8c8d"/><stop offset="0.5" stop-color="#c9c8c4"/>
    <stop offset="0.82" stop-color="#97979a"/><stop offset="1" stop-color="#525356"/>
  </linearGradient>
  <linearGradient id="round" x1="0" y1="0" x2="0" y2="1">
    <stop offset="0" stop-color="#303236"/><stop offset="0.22" stop-color="#a9acb0"/><stop offset="0.34" stop-color="#eceded"/>
    <stop offset="0.6" stop-color="#8d9095"/><stop offset="1" stop-color="#292b2e"/>
  </linearGradient>
  <linearGradient id="copper" x1="0" y1="0" x2="0" y2="1">
    <stop offset="0" stop-color="#6d4126"/><stop offset="0.5" stop-color="#c98552"/><stop offset="1" stop-color="#74452a"/>
  </linearGradient>
  <linearGradient id="back" x1="0" y1="0" x2="0" y2="1">
    <stop offset="0" stop-color="#3c3e41"/><stop offset="0.35" stop-color="#b9bbbc"/><stop offset="0.5" stop-color="#d9dad9"/>
    <stop offset="1" stop-color="#47494c"/>
  </linearGradient>`;

function page(bench, body, tape) {
  const tag = tape
    ? `<g transform="translate(60 790) rotate(-3)"><rect width="${56 + tape.length * 44}" height="74" fill="#e8d9a4"/>
       <rect width="${56 + tape.length * 44}" height="74" fill="#b9a76c" opacity="0.25" filter="url(#cloth)"/>
       <text x="26" y="56" font-family="Atkinson Hyperlegible Mono, monospace" font-weight="700" font-size="58" fill="#23272c">${tape}</text></g>`
    : '';
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${W}" height="${H}" viewBox="0 0 ${W} ${H}"><defs>${filters}</defs>
    <rect width="${W}" height="${H}" fill="${bench}"/><rect width="${W}" height="${H}" fill="#777" opacity="0.35" filter="url(#cloth)"/>
    <radialGradient id="lamp" cx="0.38" cy="0.3" r="0.9"><stop offset="0" stop-color="#fff" stop-opacity="0.35"/><stop offset="1" stop-color="#000" stop-opacity="0.4"/></radialGradient>
    ${body}<rect width="${W}" height="${H}" fill="url(#lamp)"/>${tag}</svg>`;
}

/** A shell seen into its hollow side: width across, arc up and down. */
function shell(inside) {
  return `<g transform="translate(190 170)" filter="url(#shade)">
    <path d="M0 18Q0 0 18 0H802Q820 0 820 18V542Q820 560 802 560H18Q0 560 0 542Z" fill="url(#hollow)"/></g>
    <g transform="translate(190 170)"><clipPath id="in"><rect width="820" height="560" rx="18"/></clipPath>
    <g clip-path="url(#in)">
      <rect width="820" height="560" fill="#222" filter="url(#brushed)" opacity="0.5" transform="rotate(90 410 280) scale(1.6)"/>
      ${inside}
      <ellipse cx="410" cy="182" rx="30" ry="21" fill="#191a1b"/><ellipse cx="410" cy="186" rx="30" ry="21" fill="none" stroke="#e9e7e0" stroke-opacity="0.5" stroke-width="3"/>
    </g>
    <path d="M600 0h86l-12 34h-62z" fill="#3d3f42"/></g>`;
}

const scores = (n, seed) =>
  Array.from({ length: n }, (_, i) => {
    const x = ((i * 137 + seed * 53) % 780) + 20;
    return `<path d="M${x} ${40 + ((i * 71) % 60)}V${500 - ((i * 43) % 90)}" stroke="#2b2b2b" stroke-opacity="0.55" stroke-width="${1.5 + (i % 3)}"/>`;
  }).join('');

/** A shell that ran well: an even sheen, a few lines. */
const sound = (seed) =>
  shell(
    `<ellipse cx="${400 + 8 * seed}" cy="295" rx="${300 + 7 * seed}" ry="${105 + 3 * seed}" fill="#f4f3ee" opacity="0.32" filter="url(#soft)"/>${scores(3 + (seed % 4), seed)}`,
  );

/** A piston's crown from above, arrow to the exhaust, with what lies on it. */
function crown(carbon, damage) {
  return `<g filter="url(#shade)"><circle cx="600" cy="450" r="360" fill="#a9abad"/></g>
    <radialGradient id="dome" cx="0.42" cy="0.36" r="0.75"><stop offset="0" stop-color="#dcdddc"/><stop offset="0.7" stop-color="#9fa2a5"/><stop offset="1" stop-color="#5e6164"/></radialGradient>
    <circle cx="600" cy="450" r="348" fill="url(#dome)"/>
    <clipPath id="crown"><circle cx="600" cy="450" r="344"/></clipPath><g clip-path="url(#crown)"><circle cx="600" cy="450" r="360" fill="${carbon}" opacity="0.62"/>
    <g filter="url(#speck)" fill="${carbon}" opacity="0.75">${Array.from({ length: 26 }, (_, i) => `<circle cx="${600 + 290 * Math.cos(i * 2.4) * Math.sqrt((i + 1) / 26)}" cy="${450 + 290 * Math.sin(i * 2.4) * Math.sqrt((i + 1) / 26)}" r="${34 + ((i * 29) % 46)}"/>`).join('')}</g>
    <circle cx="600" cy="450" r="340" fill="#000" filter="url(#cloth)" opacity="0.5"/></g>
    <path d="M600 250v-70M574 206l26-30 26 30" fill="none" stroke="#e8e6df" stroke-width="9" opacity="0.8"/>${damage}`;
}

/** The wall of a bore looked into from above, ports below. */
function wall(inside) {
  return `<g filter="url(#shade)"><path d="M150 120Q600 40 1050 120V800Q600 880 150 800Z" fill="url(#hollow)" transform="rotate(90 600 460) scale(0.78 1.2) translate(168 -76)"/></g>
    <clipPath id="bore"><path d="M170 110H1030V800H170Z"/></clipPath><g clip-path="url(#bore)">
    <rect x="170" y="110" width="860" height="690" fill="#8e9193"/><rect x="170" y="110" width="860" height="690" fill="#333" filter="url(#brushed)" opacity="0.35"/>
    <g stroke="#5d6062" stroke-opacity="0.5" stroke-width="1.5">${Array.from({ length: 44 }, (_, i) => `<path d="M${i * 40 - 500} 800L${i * 40 - 100} 110M${i * 40 - 500} 110L${i * 40 - 100} 800"/>`).join('')}</g>
    <g fill="#17181a"><rect x="250" y="600" width="170" height="110" rx="22"/><rect x="500" y="560" width="210" height="150" rx="26"/><rect x="790" y="600" width="170" height="110" rx="22"/></g>
    <linearGradient id="turned" x1="0" y1="0" x2="1" y2="0"><stop offset="0" stop-color="#000" stop-opacity="0.55"/><stop offset="0.35" stop-opacity="0"/><stop offset="0.7" stop-opacity="0"/><stop offset="1" stop-color="#000" stop-opacity="0.55"/></linearGradient>
    ${inside}<rect x="170" y="110" width="860" height="690" fill="url(#turned)"/></g>`;
}

/** A skirt seen through the exhaust port. */
function throughPort(marks) {
  return `<rect width="1200" height="900" fill="#3b3d3f"/><rect width="1200" height="900" fill="#000" filter="url(#cloth)" opacity="0.6"/>
    <clipPath id="hole"><rect x="200" y="170" width="800" height="520" rx="90"/></clipPath>
    <rect x="180" y="150" width="840" height="560" rx="104" fill="#6f7275"/><rect x="200" y="170" width="800" height="520" rx="90" fill="#17181a"/>
    <g clip-path="url(#hole)"><rect x="200" y="200" width="800" height="490" fill="url(#round)" transform="rotate(90 600 445) scale(1.4 1)"/>
    <rect x="200" y="170" width="800" height="520" fill="#222" filter="url(#brushed)" opacity="0.55"/>
    <path d="M200 236H1000M200 252H1000" stroke="#202224" stroke-width="10"/>${marks}</g>`;
}

const torn = (n, x0, x1, y0, y1, seed) =>
  Array.from({ length: n }, (_, i) => {
    const x = x0 + (((i * 97 + seed * 31) % 100) / 100) * (x1 - x0);
    return `<path d="M${x} ${y0 + ((i * 37) % 60)}V${y1 - ((i * 53) % 90)}" stroke="${i % 3 ? '#2c2d2f' : '#dfe0df'}" stroke-opacity="0.75" stroke-width="${2 + (i % 5)}"/>`;
  }).join('');

/** A sparking plug from the side, tip to the left. */
function plug(nose, specks) {
  return `<g filter="url(#shade)"><rect x="640" y="360" width="420" height="180" rx="20" fill="#a7a9aa"/><rect x="360" y="380" width="300" height="140" fill="url(#round)"/>
    ${Array.from({ length: 14 }, (_, i) => `<path d="M${372 + i * 20} 380V520" stroke="#3b3d3f" stroke-width="5"/>`).join('')}
    <rect x="250" y="412" width="120" height="76" rx="30" fill="${nose}"/><rect x="206" y="438" width="60" height="24" fill="#6c6e70"/>
    <path d="M360 392H200V430" fill="none" stroke="#77797b" stroke-width="22"/></g>${specks}`;
}

const pictures = {
  'shell-r1u': page('#8d8f8a', sound(1), 'R1U'),
  'shell-r2u': page('#8d8f8a', sound(2), 'R2U'),
  'shell-r3u': page('#8d8f8a', sound(4), 'R3U'),
  'shell-r6u': page('#8d8f8a', sound(6), 'R6U'),
  'crown-p1': page(
    '#77736b',
    crown(
      '#2b2722',
      '<path d="M420 190Q600 120 780 190Q740 250 600 244Q460 250 420 190Z" fill="#c9cac9" opacity="0.9" filter="url(#speck)"/>',
    ),
    'P1',
  ),
  'crown-p2': page('#77736b', crown('#4a4033', ''), 'P2'),
  'port-p1': page(
    '#3b3d3f',
    throughPort(
      `${torn(46, 330, 880, 280, 690, 3)}<g filter="url(#speck)" fill="#e6e6e4" opacity="0.7"><path d="M480 360h60l14 210h-60z"/><path d="M640 330h44l10 260h-50z"/></g>`,
    ),
    'P1',
  ),
  'port-p2': page('#3b3d3f', throughPort(torn(5, 420, 760, 420, 620, 9)), 'P2'),
  'bore-c1': page(
    '#54585a',
    wall(
      `${torn(34, 470, 740, 150, 640, 5)}<g filter="url(#torn)" fill="#d7d8d7" opacity="0.75"><path d="M520 220h46v330h-46z"/><path d="M630 180h34v360h-34z"/></g>`,
    ),
    'C1',
  ),
  'bore-c2': page('#54585a', wall(torn(4, 520, 700, 200, 560, 2)), 'C2'),
  'plug-n1': page(
    '#8a8479',
    plug(
      '#f2f1ec',
      '<g fill="#c9cbcc"><circle cx="300" cy="436" r="6"/><circle cx="322" cy="462" r="5"/><circle cx="282" cy="456" r="4"/></g>',
    ),
    'N1',
  ),
  'plug-n2': page('#8a8479', plug('#a5825c', ''), 'N2'),
  'shell-r4u': page(
    '#8d8f8a',
    shell(`<g filter="url(#torn)"><path d="M-20 120H840V450H-20Z" fill="url(#copper)"/><path d="M60 190H770V400H60Z" fill="#d79562" opacity="0.8"/></g>
      <g filter="url(#speck)" fill="#1d1815" opacity="0.85"><path d="M300 300h70l20 46h-80z"/><path d="M470 350h52v40h-44z"/><path d="M230 230h38v30h-40z"/><path d="M560 250h64l14 36h-70z"/><path d="M390 250h26v22h-28z"/></g>
      ${scores(38, 3)}<path d="M0 452q200 -22 410 4t410 -6v26q-200 20 -410 -2t-410 8z" fill="#e3e1da" opacity="0.75" filter="url(#speck)"/>`),
    'R4U',
  ),
  'shell-r4l': page(
    '#8d8f8a',
    shell(
      `<g filter="url(#torn)"><path d="M420 150H850V430H420Z" fill="url(#copper)" opacity="0.9"/><path d="M560 200H820V380H560Z" fill="#cf8c58"/></g>${scores(22, 5)}`,
    ),
    'R4L',
  ),
  'shell-r5u': page(
    '#8d8f8a',
    shell(`<ellipse cx="410" cy="300" rx="330" ry="120" fill="#f4f3ee" opacity="0.35" filter="url(#soft)"/>${scores(7, 8)}
      <g fill="#a4683f"><circle cx="300" cy="330" r="5"/><circle cx="472" cy="282" r="4"/><circle cx="555" cy="346" r="6"/><circle cx="352" cy="262" r="3.5"/></g>`),
    'R5U',
  ),
  'stamp-r4u': page(
    '#7f8580',
    `<g filter="url(#shade)"><rect x="150" y="210" width="900" height="470" rx="20" fill="url(#back)"/></g>
     <rect x="150" y="210" width="900" height="470" rx="20" fill="#333" filter="url(#brushed)" opacity="0.5"/>
     <ellipse cx="620" cy="440" rx="260" ry="110" fill="#b8893b" opacity="0.32" filter="url(#soft)"/>
     <g font-family="Atkinson Hyperlegible Mono, monospace" font-weight="700">
       <text x="322" y="472" font-size="112" fill="#fff" opacity="0.5">STD</text><text x="320" y="469" font-size="112" fill="#26282a" opacity="0.9">STD</text>
       <text x="640" y="466" font-size="64" fill="#2b2d2f" opacity="0.75">H 4417</text></g>
     <path d="M880 210h96l-14 44h-68z" fill="#55585b"/>`,
    'R4U',
  ),
  'crankpin-4': page(
    '#6f7472',
    `<g filter="url(#shade)"><rect x="60" y="90" width="170" height="720" rx="44" fill="#5f6367"/><rect x="970" y="90" width="170" height="720" rx="44" fill="#595d61"/>
     <rect x="215" y="190" width="770" height="520" fill="url(#round)"/></g>
     <rect x="215" y="190" width="770" height="520" fill="#111" filter="url(#brushed)" opacity="0.7" transform="rotate(90 600 450) scale(0.72 1.5) translate(230 -150)"/>
     <g stroke="#1b1d1f" stroke-opacity="0.7">${Array.from({ length: 26 }, (_, i) => `<path d="M${330 + ((i * 97) % 530)} 205V695" stroke-width="${1 + (i % 4)}"/>`).join('')}</g>
     <g stroke="#f3f3f1" stroke-opacity="0.5">${Array.from({ length: 14 }, (_, i) => `<path d="M${345 + ((i * 131) % 500)} 205V695" stroke-width="2"/>`).join('')}</g>
     <ellipse cx="600" cy="430" rx="44" ry="40" fill="#0e0f10"/><ellipse cx="600" cy="430" rx="58" ry="54" fill="none" stroke="#e8e8e6" stroke-opacity="0.55" stroke-width="9"/>`,
    'K4',
  ),
  'pan-flakes': page(
    '#e9e7df',
    `<path d="M120 160Q600 40 1080 190Q1150 480 1010 730Q560 850 170 700Q60 420 120 160Z" fill="#6b5c43" opacity="0.28" filter="url(#soft)"/>
     <g filter="url(#speck)">${Array.from({ length: 120 }, (_, i) => {
       const a = i * 2.399963;
       const r = 26 * Math.sqrt(i) * 1.25;
       const [x, y] = [600 + r * Math.cos(a) * 1.35, 440 + r * Math.sin(a)];
       const s = 5 + ((i * 17) % 15);
       const tone = ['#8a8c8e', '#b2b3b3', '#b37947', '#6e7072', '#c9925f'][i % 5];
       return `<path d="M${x} ${y}l${s} ${-s * 0.4}l${s * 0.7} ${s * 0.8}l${-s * 0.9} ${s * 0.6}z" fill="${tone}" stroke="#3a3327" stroke-opacity="0.5"/>`;
     }).join('')}</g>`,
    'PA',
  ),
};

mkdirSync('demo/pictures', { recursive: true });
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu'],
});
const tab = await browser.newPage({ viewport: { width: W, height: H } });
for (const [name, svg] of Object.entries(pictures)) {
  await tab.setContent(`<body style="margin:0">${svg}</body>`);
  await tab.screenshot({ path: `demo/pictures/${name}.jpg`, type: 'jpeg', quality: 82 });
}
await browser.close();
