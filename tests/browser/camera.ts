import { chromium, type Browser } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A browser whose camera sees the upper left corner of a paper, as large as a label; with fewer dots to the inch, more of it. */
export async function seeing(pdf: Buffer, dpi = 200): Promise<Browser> {
  const folder = mkdtempSync(join(tmpdir(), 'camera-'));
  writeFileSync(join(folder, 'paper.pdf'), pdf);
  execFileSync('pdftoppm', [
    ...['-r', String(dpi), '-gray', '-singlefile', '-W', '600', '-H', '460'],
    join(folder, 'paper.pdf'),
    join(folder, 'paper'),
  ]);
  writeFileSync(join(folder, 'paper.y4m'), cameraFile(readFileSync(join(folder, 'paper.pgm'))));
  return chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-video-capture=${join(folder, 'paper.y4m')}`,
    ],
  });
}

/** A grey picture (PGM) in the middle of a white frame of 640 × 480, as a video file that Chromium plays as its camera. */
function cameraFile(pgm: Buffer): Buffer {
  const [width, height] = [640, 480];
  const head = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(pgm.subarray(0, 40).toString('latin1'))!;
  const [w, h] = [Number(head[1]), Number(head[2])];
  const luma = Buffer.alloc(width * height, 235);
  const [left, top] = [Math.floor((width - w) / 2), Math.floor((height - h) / 2)];
  for (let y = 0; y < h; y++)
    pgm.copy(luma, (top + y) * width + left, head[0].length + y * w, head[0].length + (y + 1) * w);
  const frame = Buffer.concat([Buffer.from('FRAME\n'), luma, Buffer.alloc((width * height) / 2, 128)]);
  return Buffer.concat([
    Buffer.from(`YUV4MPEG2 W${width} H${height} F10:1 Ip A1:1 C420jpeg\n`),
    frame,
    frame,
    frame,
  ]);
}
