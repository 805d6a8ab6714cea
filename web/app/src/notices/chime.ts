/** Two soft notes; nothing where the browser plays no sound yet. */
export function playChime(): void {
  try {
    const context = new AudioContext();
    for (const [index, pitch] of [659, 880].entries()) {
      const note = context.createOscillator();
      const volume = context.createGain();
      const begins = context.currentTime + index * 0.14;
      note.frequency.value = pitch;
      volume.gain.setValueAtTime(0.0001, begins);
      volume.gain.exponentialRampToValueAtTime(0.15, begins + 0.02);
      volume.gain.exponentialRampToValueAtTime(0.0001, begins + 0.3);
      note.connect(volume).connect(context.destination);
      note.start(begins);
      note.stop(begins + 0.32);
    }
    setTimeout(() => void context.close(), 1_000);
  } catch {
    // A browser without sound tells it all the same, in the bell.
  }
}
