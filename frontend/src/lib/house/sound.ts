let sounds: AudioContext | null = null;

/** A taken reading is heard and felt; one that is not understood sounds low. */
export function heard(good: boolean): void {
	navigator.vibrate?.(good ? 30 : [60, 40, 60]);
	try {
		sounds ??= new AudioContext();
		const tone = sounds.createOscillator();
		const loud = sounds.createGain();
		tone.frequency.value = good ? 880 : 220;
		loud.gain.setValueAtTime(0.12, sounds.currentTime);
		loud.gain.exponentialRampToValueAtTime(0.001, sounds.currentTime + 0.14);
		tone.connect(loud).connect(sounds.destination);
		tone.start();
		tone.stop(sounds.currentTime + 0.15);
	} catch {
		// no sound on this machine: the echo on the page remains
	}
}
