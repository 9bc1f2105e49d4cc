#!/usr/bin/env node
// Finds names of existing products and makers in a tree, without spelling any of them: it compares hashes of words and word pairs.
// Use: node check-names.mjs [DIR]   Exit 1 and one line a place where something is found, else 0.
import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';

const known = new Set(
  `
  00ab8b0ac35c1e 00cad9e7ea4657 0739097b534672 092a6cdf6dabdb 09a46e97732a78 0ac939ac3d4a1d
  0bed5036370597 1975ed5144804c 1a269c12241075 1ac89d719e010d 1c3a4056242b72 1dc9fffa3501a9
  1e001fd2e00346 1e6ed3da573fc5 1f09171587a758 2237ea5828a664 2335398561cf20 23ee566264be4a
  27a6d375a1da5d 280b6893f83212 29bcb40b8f1fa2 2bfadada6f2625 2c2a72914e08c4 2d6652a89fb273
  36063f6a6c7b74 3a7db37cad0d04 3be6f3ff432b87 3d69265f91282c 410e1647c99045 41c37dd692f322
  435ba6b0204216 43fad22949a569 44f15437cd97d7 4615d67c665e80 49c82d5a9dd3ef 4d1f40397455e3
  4d304d4a667133 4d35f13c6ddbb1 4f268b3b699c87 4f908d368044f5 4fae7c19bcaa62 4fe3e024649089
  50f7cc50e4f5e3 5246929829441b 53c20a62d14cba 55e24199887cc7 56184b2ac9ebfc 561878c1c303f0
  56e2669538e7f3 5751a390829317 57c8f367a7af1b 592c1dd02126cf 5b47a9aef2fc4f 5c0ce18745f738
  5cfc1a88ab7981 5f7c9ab81094f0 60f2923dd9c20c 65242c918a5ce6 6ba2467dc86e72 70e73c0a59b463
  712fc17dd6e717 73f2abd080cf47 7431d30fae6419 789e72672cc30d 7afc3b5367c8de 7be9ab9073ce7a
  80ded9e060509a 816c50df6824fb 862d7709120974 86f35a5a2093ec 877a2a8db9b227 8846b8a9218670
  8be6c2be181892 8c035d62595614 8e5332a5f40d75 960e96d8022a90 9755dd9bd9eb77 9926474abc003a
  9f5edd24efb6e9 a38b4631ffb01d a48b0021e35144 a4966c839c390c ab580c92325803 acc2f2264986d1
  b2395476f4cab8 b575c40cb6de98 b5a2213a562600 b6488ba1c130d7 bc39ee5943ebce bc52e1fc60651e
  bffae0c1ed7431 c2ed92c058e8b2 c3e677b87293c0 c4634c76d09e25 c63be383677a7d c95b4052ee4a0b
  ca84c184d90999 cd5e7d733a2501 cd7a0b2ea5c840 ce35635dbaa384 d04111837c3b1b d31860a9eea2d0
  d328903bbb202d d383f586b952cb d6444874d07e90 d7605bf50b229f d81ea87ba9ac1f d8d84a3dc104ca
  d9883505e87fb8 d9f3049ed411a1 da17e83617a966 da2548a1a4b3c3 da6b13f57c1eff db387156a38ecc
  db8cf45d1bd8da dff465b7d1a25f e0a5d0a4d1724f e3c2e2047c2a7e e59dda3d92ebc4 e60fdc1e793fb5
  e628a9f83264de ed4151641c5e76 f31efad607f5ab f5c5d6da149eaf f738af92bfd380 fa90784b444b29
  fd84b32e5389c2 fecc56fb0a60a5
`
    .trim()
    .split(/\s+/),
);
const digest = (name) =>
  createHash('sha256')
    .update('dp:' + name)
    .digest('hex')
    .slice(0, 14);
const seen = new Map();
const isKnown = (name) => {
  if (!seen.has(name)) seen.set(name, known.has(digest(name)));
  return seen.get(name);
};

const root = process.argv[2] ?? '.';
const list = (...more) =>
  execFileSync('git', ['ls-files', '-z', ...more], { cwd: root, maxBuffer: 1 << 28 })
    .toString()
    .split('\0');
const skip = /(^|\/)(package-lock\.json|node_modules\/|dist\/)|\.(png|jpg|woff2?|wav|pcap|pcapng|pdf|zip|ico)$/;
let found = 0;
for (const file of new Set([...list(), ...list('-o', '--exclude-standard')])) {
  if (!file || skip.test(file)) continue;
  const path = join(root, file);
  let text;
  try {
    if (statSync(path).size > 2_000_000) continue;
    text = readFileSync(path, 'utf8');
  } catch {
    continue;
  }
  [file, ...text.split('\n')].forEach((line, number) => {
    // camelCase and letters against digits are read both whole and apart
    const whole = line.toLowerCase().match(/[a-z0-9]+/g) ?? [];
    const apart =
      line
        .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
        .toLowerCase()
        .match(/[a-z0-9]+/g) ?? [];
    const hits = new Set();
    for (const words of [whole, apart])
      words.forEach((word, i) => {
        if (isKnown(word)) hits.add(word);
        if (i > 0 && isKnown(`${words[i - 1]} ${word}`)) hits.add(`${words[i - 1]} ${word}`);
      });
    for (const hit of hits) {
      found += 1;
      console.log(`${file}:${number}: "${hit}" is (or reads like) a product's or maker's name: use a name of our own`);
    }
  });
}
if (found === 0) console.log('no product or maker names found');
process.exitCode = found === 0 ? 0 : 1;
