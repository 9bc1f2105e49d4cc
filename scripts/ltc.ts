import { closeSync, createReadStream, openSync, writeFileSync, writeSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { LtcWavReader, LtcWriter, pcmOf, WavFault, wavHead, type HeardWord } from '../packages/codecs/src/index.ts';
import { timecode } from '../packages/core/src/index.ts';

const usage = `Linear time code as WAV files.

  node scripts/deep-patch.mjs ltc write FILE [options]
    --rate 25             ${timecode.carriedRates.join(', ')}
    --start 10:00:00:00   first time
    --frames 1500         how many frames; or --seconds 60
    --sample-rate 48000   44100 to 192000
    --level -12           peak in dB of full scale
    --rise 40             microseconds from 10 to 90 % of a transition
    --user-bits 00261108  eight hexadecimal digits, the first binary group first
    --bits 16             16 or 24
    --speed 1             0.1 to 10 times as fast
    --backwards           as a tape that runs backwards

  node scripts/deep-patch.mjs ltc read FILE [options]
    --channel 1           listens to this channel only; otherwise to all, and takes the best
    --words OUT.csv       one line a word: time, drop-frame, user bits, direction, first sample, sample after it
    --json OUT.json       the whole reading
`;

/** Does what the command line asks for; says what is wrong, and gives the exit code. */
export async function ltc(args: readonly string[]): Promise<number> {
  try {
    const [deed, ...rest] = args;
    if (deed === 'write') return write(rest);
    if (deed === 'read') return await read(rest);
    process.stdout.write(usage);
    return deed === undefined || deed === '--help' ? 0 : 1;
  } catch (thrown) {
    if (!(thrown instanceof Error)) throw thrown;
    process.stderr.write(`${thrown.message}\n`);
    return 1;
  }
}

function write(args: readonly string[]): number {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      rate: { type: 'string', default: '25' },
      start: { type: 'string', default: '00:00:00:00' },
      frames: { type: 'string' },
      seconds: { type: 'string', default: '60' },
      'sample-rate': { type: 'string', default: '48000' },
      level: { type: 'string', default: '-12' },
      rise: { type: 'string', default: '40' },
      'user-bits': { type: 'string', default: '00000000' },
      bits: { type: 'string', default: '16' },
      speed: { type: 'string', default: '1' },
      backwards: { type: 'boolean', default: false },
    },
  });
  const file = onlyFile(positionals);
  const key = timecode.carriedRates.find((one) => one === values.rate);
  if (!key) throw new Error(`--rate is one of ${timecode.carriedRates.join(', ')}, and not ${values.rate}.`);
  const rate = timecode.rates[key];
  const start = timecode.readTime(values.start, rate);
  if ('fault' in start) throw new Error(`--start: ${start.fault}`);
  const speed = numberIn('speed', values.speed, 0.1, 10);
  const sampleRate = numberIn('sample-rate', values['sample-rate'], 8000, 192_000);
  const fps = timecode.framesPerSecond(rate);
  const count =
    values.frames === undefined
      ? Math.round(numberIn('seconds', values.seconds, 0.04, 86_400) * fps)
      : Math.floor(numberIn('frames', values.frames, 1, 5_184_000));
  if (!/^[0-9a-fA-F]{8}$/.test(values['user-bits'])) throw new Error('--user-bits takes eight hexadecimal digits.');
  const bits = values.bits === '24' ? 24 : values.bits === '16' ? 16 : undefined;
  if (!bits) throw new Error('--bits is 16 or 24.');
  const writer = new LtcWriter({
    sampleRate,
    wordsPerSecond: fps * speed,
    level: 10 ** (numberIn('level', values.level, -60, 0) / 20),
    riseTime: numberIn('rise', values.rise, 0, 1000) / 1e6,
    isAt25: rate.counts === 25,
    backwards: values.backwards,
  });
  const userBits = Array.from(values['user-bits'], (digit) => parseInt(digit, 16));
  const first = timecode.framesOf(start.time, rate);
  const out = openSync(file, 'w');
  writeSync(out, wavHead(sampleRate, bits, 0));
  let samples = 0;
  const put = (block: Float32Array) => {
    samples += block.length;
    writeSync(out, pcmOf(block, bits));
  };
  for (let frame = 0; frame < count; frame += 1) {
    const at = first + (values.backwards ? count - 1 - frame : frame);
    put(writer.word({ ...timecode.timeAfter(at, rate), dropFrame: rate.drops > 0, userBits }));
  }
  put(writer.end());
  if (((samples * bits) / 8) % 2 === 1) writeSync(out, new Uint8Array(1));
  // how much there is stands before it
  writeSync(out, wavHead(sampleRate, bits, samples), 0, 44, 0);
  closeSync(out);
  process.stdout.write(
    `${count} frames of ${rate.label} from ${timecode.timeWords(start.time, rate)} on, ${samples} samples: ${file}\n`,
  );
  return 0;
}

async function read(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { channel: { type: 'string' }, words: { type: 'string' }, json: { type: 'string' } },
  });
  const file = onlyFile(positionals);
  const channel = values.channel === undefined ? undefined : numberIn('channel', values.channel, 1, 64) - 1;
  const heard: { words: HeardWord[]; builder: timecode.ReadingBuilder }[] = [];
  const keep = values.words !== undefined;
  const reader: LtcWavReader = new LtcWavReader(
    (format) => {
      if (channel !== undefined && channel >= format.channels)
        throw new WavFault(`It has ${format.channels} channels, and no ${channel + 1}.`);
    },
    (at, word) => {
      const own = (heard[at] ??= {
        words: [],
        builder: new timecode.ReadingBuilder(reader.format?.sampleRate ?? 48_000),
      });
      own.builder.push(word);
      if (keep) own.words.push(word);
    },
    channel,
  );
  for await (const piece of createReadStream(file, { highWaterMark: 1 << 20 })) reader.push(piece as Uint8Array);
  const missing = reader.end();
  const { samples } = reader;
  const readings = heard.map(({ builder, words }, at) => ({ at, words, reading: builder.end(samples) }));
  const best = readings.reduce<(typeof readings)[number] | undefined>(
    (most, one) => (one && (one.reading?.words ?? 0) > (most?.reading?.words ?? 0) ? one : most),
    undefined,
  );
  if (missing > 0) process.stderr.write(`The file ends ${missing} samples early.\n`);
  if (!best?.reading) throw new Error('No linear time code is heard in it.');
  process.stdout.write(`${timecode.readingLines(best.reading).join('\n')}\nchannel ${best.at + 1}\n`);
  if (values.json) writeFileSync(values.json, JSON.stringify({ channel: best.at + 1, ...best.reading }, undefined, 2));
  if (values.words) writeFileSync(values.words, wordsCsv(best.words, timecode.rates[best.reading.rate]));
  return 0;
}

function wordsCsv(words: readonly HeardWord[], rate: timecode.Rate): string {
  const lines = words.map(({ time, backwards, from, until }) =>
    [
      time ? timecode.timeWords(time, { drops: time.dropFrame ? rate.drops || 2 : 0 }) : '',
      time?.dropFrame ? 'yes' : 'no',
      (time?.userBits ?? []).map((bits) => bits.toString(16)).join(''),
      backwards ? 'backwards' : 'forwards',
      from.toFixed(2),
      until.toFixed(2),
    ].join(','),
  );
  return `${['time,drop_frame,user_bits,direction,from,until', ...lines].join('\n')}\n`;
}

function onlyFile(positionals: readonly string[]): string {
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0) throw new Error(`Name one file.\n\n${usage}`);
  return file;
}

function numberIn(name: string, text: string, least: number, most: number): number {
  const value = Number(text);
  if (text.trim() === '' || !(value >= least && value <= most))
    throw new Error(`--${name} goes from ${least} to ${most}, and not ${text}.`);
  return value;
}
