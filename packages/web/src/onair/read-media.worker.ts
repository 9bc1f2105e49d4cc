import mediaInfoFactory from 'mediainfo.js';
import wasmUrl from 'mediainfo.js/MediaInfoModule.wasm?url';
import { factsOf, type MediaFacts } from './media-facts.ts';

export type MediaAnswer =
  { readonly name: string; readonly facts: MediaFacts } | { readonly name: string; readonly fault: string };

const reader = mediaInfoFactory({ format: 'object', locateFile: () => wasmUrl });

/** Reads the headers of files one after the other; of a file as much as that takes, not the whole of it. */
self.onmessage = ({ data }: MessageEvent<readonly File[]>) => {
  void (async () => {
    const media = await reader.catch(() => undefined);
    for (const file of data) {
      let answer: MediaAnswer = { name: file.name, fault: 'The reader of headers did not start: load the page anew.' };
      if (media)
        try {
          const read = await media.analyzeData(
            file.size,
            async (size, offset) => new Uint8Array(await file.slice(offset, offset + size).arrayBuffer()),
          );
          answer = { name: file.name, facts: factsOf(read) };
        } catch {
          answer = { name: file.name, fault: 'Its header cannot be read.' };
        }
      self.postMessage(answer);
    }
  })();
};
