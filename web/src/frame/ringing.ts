import { useEffect } from "react";
import type { HobSlot } from "@/api/types";

/** A timer rings on every screen until somebody looks at its step, or gives it more time. */

const HEARD = "heard";

function heard(): string[] {
  try {
    return JSON.parse(localStorage.getItem(HEARD) ?? "[]") as string[];
  } catch {
    return [];
  }
}

const name = (slot: HobSlot): string => `${slot.step_id}@${slot.due_at}`;

export function silence(slot: HobSlot): void {
  localStorage.setItem(HEARD, JSON.stringify([...heard().slice(-40), name(slot)]));
}

export function ringing(slot: HobSlot, now: number): boolean {
  if (!slot.due_at || slot.role === "cool") return false;
  return new Date(slot.due_at).getTime() <= now && !heard().includes(name(slot));
}

let sound: AudioContext | undefined;

/** Browsers only let a page sound after a first press. */
function wake(): void {
  sound ??= new AudioContext();
  if (sound.state === "suspended") void sound.resume();
}

function strike(): void {
  if (sound?.state !== "running") return;
  const t = sound.currentTime;
  for (const [delay, pitch] of [
    [0, 880],
    [0.25, 660],
  ] as const) {
    const [tone, gain] = [sound.createOscillator(), sound.createGain()];
    tone.frequency.value = pitch;
    gain.gain.setValueAtTime(0.25, t + delay);
    gain.gain.exponentialRampToValueAtTime(0.001, t + delay + 0.9);
    tone.connect(gain).connect(sound.destination);
    tone.start(t + delay);
    tone.stop(t + delay + 1);
  }
}

export function useRinging(slots: HobSlot[], now: number): void {
  const rings = slots.filter((s) => ringing(s, now));
  const on = rings.length > 0;
  const first = rings[0]?.holds ?? "";
  useEffect(() => {
    window.addEventListener("pointerdown", wake);
    window.addEventListener("keydown", wake);
    return () => {
      window.removeEventListener("pointerdown", wake);
      window.removeEventListener("keydown", wake);
    };
  }, []);
  useEffect(() => {
    if (!on) return;
    document.title = `Now: ${first}`;
    strike();
    const timer = setInterval(strike, 3000);
    return () => {
      clearInterval(timer);
      document.title = "Elderberry";
    };
  }, [on, first]);
}
