/** Samples of any sound file, as they come: never more of it in memory than a few pieces, however long it is. */
import type { Pcm } from '../../core/sounds/shape.ts';
import type { SoundKind } from '../../core/sounds/rows.ts';
import type { SoundReader } from './kept.ts';
import { inOrder } from './m4a.ts';

const AT_ONCE = 64 * 1024;

interface Decoded {
  channelData: Float32Array[];
  sampleRate: number;
  /** What could not be decoded, and was left out. */
  errors?: readonly unknown[];
}
interface Decoder {
  decode: (bytes: Uint8Array) => Decoded | Promise<Decoded>;
  flush?: () => Decoded | Promise<Decoded>;
  free: () => void;
}

async function flac(): Promise<Decoder> {
  const { FLACDecoder } = await import('@wasm-audio-decoders/flac');
  const decoder = new FLACDecoder();
  await decoder.ready;
  return decoder;
}

async function vorbis(): Promise<Decoder> {
  const { OggVorbisDecoder } = await import('@wasm-audio-decoders/ogg-vorbis');
  const decoder = new OggVorbisDecoder();
  await decoder.ready;
  return decoder;
}

/** Decoders are loaded when they are wanted: most houses play one kind. */
async function decoderOf(kind: SoundKind, head: Uint8Array): Promise<Decoder> {
  switch (kind) {
    case 'wav':
      return (await import('@audio/decode-wav')).decoder();
    case 'mp3':
      return (await import('@audio/decode-mp3')).decoder();
    case 'flac':
      return flac();
    case 'ogg':
      // The first packet of the stream says which it is (RFC 7845, 5.1).
      return Buffer.from(head.subarray(0, 64)).includes('OpusHead')
        ? (await import('@audio/decode-opus')).decoder()
        : vorbis();
    case 'm4a':
      return (await import('@audio/decode-aac')).decoder();
  }
}

async function* bytesOf({ size, read }: SoundReader): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < size; at += AT_ONCE) yield await read(at, at + AT_ONCE);
}

/**
 * @param told whether something in it could not be decoded, and was left out
 * @throws where a decoder gives up; what came before it is good
 */
export async function* pcmOf(
  kind: SoundKind,
  file: SoundReader,
  told: { broken?: boolean } = {},
): AsyncGenerator<Pcm> {
  const decoder = await decoderOf(kind, await file.read(0, AT_ONCE));
  const pcm = ({ channelData, sampleRate, errors }: Decoded): Pcm | undefined => {
    if (errors && errors.length > 0) told.broken = true;
    return channelData.length > 0 && (channelData[0]?.length ?? 0) > 0 && sampleRate > 0
      ? { channels: channelData, rate_hz: sampleRate }
      : undefined;
  };
  try {
    for await (const bytes of bytesOf(kind === 'm4a' ? await inOrder(file) : file)) {
      const part = pcm(await decoder.decode(bytes));
      if (part) yield part;
    }
    const rest = decoder.flush ? pcm(await decoder.flush()) : undefined;
    if (rest) yield rest;
  } finally {
    decoder.free();
  }
}
