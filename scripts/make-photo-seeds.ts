import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { writeExif } from '../standins/files/exif.ts'

/**
 * Draws the practice phones' pictures and clips, once: `npx tsx scripts/make-photo-seeds.ts`. Needs heif-enc (Debian's
 * libheif-examples) and ffmpeg; what it makes is committed, so that nobody else does.
 */
const to = 'standins/files/seeds'
const work = mkdtempSync(join(tmpdir(), 'seeds-'))
const run = (command: string, ...args: string[]) => execFileSync(command, args, { stdio: ['ignore', 'ignore', 'pipe'] })

const scene = (w: number, h: number, sky: string, sea: string, more: string) =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${w}" height="${h}" viewBox="0 0 640 480" preserveAspectRatio="xMidYMid slice"><rect width="640" height="480" fill="${sky}"/><rect y="290" width="640" height="190" fill="${sea}"/>${more}</svg>`,
  )
const wave = (y: number) =>
  `<path d="M0 ${y}q40 -18 80 0t80 0t80 0t80 0t80 0t80 0t80 0t80 0" fill="none" stroke="#fff" stroke-width="5" opacity=".55"/>`
const scenes = {
  // an upright arrow on the tower tells which way is up
  lighthouse: scene(
    640,
    480,
    '#bcd4e6',
    '#3b6b88',
    `${wave(340)}${wave(400)}<path d="M300 120h50l18 230h-86z" fill="#fff"/><path d="M296 170h58l5 50h-67zM290 270h70l5 50h-80z" fill="#b4412d"/><rect x="298" y="84" width="54" height="38" fill="#17212b"/><path d="M325 46l34 38h-68z" fill="#8a5a0b"/>`,
  ),
  harbour: scene(
    640,
    480,
    '#f3e1c2',
    '#27655a',
    `${wave(330)}<path d="M120 330h170l-34 60h-104z" fill="#8a5a0b"/><path d="M200 150v180M200 160l90 150h-90z" fill="#fff" stroke="#17212b" stroke-width="5"/><circle cx="520" cy="120" r="46" fill="#e8a33d"/>`,
  ),
  hive: scene(
    640,
    480,
    '#e9efe0',
    '#7d9a57',
    `<rect x="210" y="190" width="220" height="60" fill="#e8c35a"/><rect x="200" y="250" width="240" height="60" fill="#d9a93d"/><rect x="190" y="310" width="260" height="60" fill="#c08a2a"/><rect x="300" y="330" width="40" height="16" fill="#17212b"/>`,
  ),
  choir: scene(
    640,
    480,
    '#e7e2ee',
    '#6b5b80',
    [0, 1, 2, 3, 4]
      .map(
        (i) =>
          `<circle cx="${120 + i * 100}" cy="230" r="38" fill="#f0c9a4"/><path d="M${70 + i * 100} 380q50 -150 100 0z" fill="#3b5480"/>`,
      )
      .join(''),
  ),
}
for (const [name, svg] of Object.entries(scenes)) {
  writeFileSync(`${to}/${name}.jpg`, await sharp(svg).jpeg({ quality: 62, mozjpeg: true }).toBuffer())
  writeFileSync(`${to}/${name}.thumb.jpg`, await sharp(svg).resize(120, 90).jpeg({ quality: 50 }).toBuffer())
}
writeFileSync(
  `${to}/tall.jpg`,
  await sharp(scene(360, 640, '#cfe3ea', '#446', wave(350)))
    .jpeg({ quality: 60 })
    .toBuffer(),
)
writeFileSync(
  `${to}/screen.png`,
  await sharp(scene(270, 480, '#ffffff', '#dfe6ea', '<rect x="40" y="60" width="560" height="40" fill="#17212b"/>'))
    .png({ palette: true })
    .toBuffer(),
)
writeFileSync(`${to}/tide.webp`, await sharp(scenes.harbour).resize(400).webp({ quality: 55 }).toBuffer())
const frames = await Promise.all(
  [0, 1, 2].map((i) =>
    sharp(scene(160, 120, '#bcd4e6', '#3b6b88', wave(310 + i * 20)))
      .png()
      .toBuffer(),
  ),
)
writeFileSync(
  `${to}/wave.gif`,
  await sharp(frames, { join: { animated: true } })
    .gif({ colours: 16 })
    .toBuffer(),
)

// HEIC: with Exif as cameras write it, and one turned by its container and by its Exif at once
const withNotes = (jpeg: Buffer, orientation: number) => {
  const exif = writeExif({ taken: '2000:01:01 00:00:00', offset: '+00:00', orientation, place: [50.5, -4.25] })
  const body = Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), exif])
  return Buffer.concat([
    jpeg.subarray(0, 2),
    Buffer.from([0xff, 0xe1, (body.length + 2) >> 8, (body.length + 2) & 255]),
    body,
    jpeg.subarray(2),
  ])
}
for (const [name, orientation] of [
  ['lighthouse', 1],
  ['turned', 6],
] as const) {
  const upright = sharp(scenes.lighthouse).resize(512, 384)
  const jpeg = await (orientation === 6 ? sharp(await upright.toBuffer()).rotate(270) : upright).jpeg({ quality: 92 }).toBuffer()
  writeFileSync(join(work, `${name}.jpg`), withNotes(jpeg, orientation))
  run('heif-enc', '-q', '45', join(work, `${name}.jpg`), '-o', join(to, `${name}.heic`))
}
/** Has the container turn the picture too (HEIF, ISO/IEC 23008-12 section 6.5.10), as cameras do that leave both: a quarter to the right. */
function turnByContainer(heic: Buffer): Buffer {
  const box = (type: string) => heic.indexOf(type, 0, 'latin1') - 4
  const grow = (type: string, by: number) => heic.writeUInt32BE(heic.readUInt32BE(box(type)) + by, box(type))
  const ipcoEnd = box('ipco') + heic.readUInt32BE(box('ipco'))
  const ipmaEnd = box('ipma') + heic.readUInt32BE(box('ipma'))
  const count = box('ipma') + 18
  heic[count] = heic[count]! + 1
  placeItems(heic, 10)
  for (const [type, by] of [
    ['ipco', 9],
    ['ipma', 1],
    ['iprp', 10],
    ['meta', 10],
  ] as const)
    grow(type, by)
  const irot = Buffer.concat([Buffer.from([0, 0, 0, 9]), Buffer.from('irot', 'latin1'), Buffer.from([3])])
  return Buffer.concat([heic.subarray(0, ipcoEnd), irot, heic.subarray(ipcoEnd, ipmaEnd), Buffer.from([0x84]), heic.subarray(ipmaEnd)])
}

/** Where the picture and its Exif lie (iloc version 0): moved, and told as cameras tell it, without a base. */
function placeItems(heic: Buffer, by: number): Buffer {
  const iloc = heic.indexOf('iloc', 0, 'latin1') - 4
  for (let i = 0; i < heic.readUInt16BE(iloc + 14); i++) {
    const at = iloc + 16 + i * 18 + 4
    heic.writeUInt32BE(heic.readUInt32BE(at) + heic.readUInt32BE(at + 6) + by, at + 6)
    heic.writeUInt32BE(0, at)
  }
  return heic
}
writeFileSync(`${to}/lighthouse.heic`, placeItems(readFileSync(`${to}/lighthouse.heic`), 0))
writeFileSync(`${to}/turned.heic`, turnByContainer(readFileSync(`${to}/turned.heic`)))

const film = (name: string, seconds: number, size: string) =>
  run(
    'ffmpeg',
    '-y',
    '-loop',
    '1',
    '-i',
    join(work, 'lighthouse.jpg'),
    '-t',
    String(seconds),
    '-vf',
    `scale=${size},hue=H=0.2*t`,
    '-r',
    '12',
    '-c:v',
    'libx264',
    '-preset',
    'veryslow',
    '-crf',
    '36',
    '-pix_fmt',
    'yuv420p',
    '-movflags',
    '+faststart',
    '-metadata',
    'creation_time=2000-01-01T00:00:00Z',
    join(to, name),
  )
film('motion.mp4', 2, '320:240')
film('clip.mp4', 8, '320:240')
rmSync(work, { recursive: true })
const sizes = readdirSync(to).map((name) => [name, statSync(join(to, name)).size] as const)
console.log(
  sizes.map(([name, size]) => `${name} ${size}`).join('\n'),
  '\nin all',
  sizes.reduce((sum, [, size]) => sum + size, 0),
)
