/** Passes on what an audio input hears, in blocks of 1024 samples: the reading is done outside, where nothing must be in time. */
const BLOCK = 1024;

class Tap extends AudioWorkletProcessor {
  constructor() {
    super();
    this.block = new Float32Array(BLOCK);
    this.at = 0;
  }

  process([input]) {
    const [channel] = input;
    if (!channel) return true;
    for (const value of channel) {
      this.block[this.at++] = value;
      if (this.at < BLOCK) continue;
      this.port.postMessage(this.block);
      this.block = new Float32Array(BLOCK);
      this.at = 0;
    }
    return true;
  }
}

registerProcessor('tap', Tap);
