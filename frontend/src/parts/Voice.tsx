/** The coach's voice over a moment: recorded here, kept with the shot, heard again, taken back. */
import { Mic, Square, Trash2 } from "lucide-react";
import { useEffect, useRef, useState } from "react";

import { heardAt, useVoice, useVoices } from "../api/clips";
import { Problem } from "./Problem";

const LONGEST = 180; // seconds

export function Voice({ game, shot }: { game: string; shot: string }) {
  const seconds = useVoices(game).data?.voices[shot];
  const keep = useVoice(game, shot);
  const { speaking, refused, begin, end } = useMicrophone((sound) => {
    keep.mutate(sound);
  });
  return (
    <span className="flex flex-wrap items-center gap-1" data-testid="voice">
      <button className="chip" aria-pressed={speaking !== null} onClick={speaking === null ? begin : end}>
        {speaking === null ? <Mic size={13} aria-hidden /> : <Square size={13} aria-hidden />}{" "}
        {speaking === null
          ? seconds === undefined
            ? "say something over it"
            : "say it anew"
          : `stop, ${speaking} s`}
      </button>
      {seconds !== undefined && speaking === null && (
        <>
          <audio
            controls
            preload="none"
            className="h-7 w-52"
            aria-label={`What was said over this shot, ${seconds.toFixed(0)} seconds`}
            src={heardAt(game, shot, seconds)}
          />
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label="Take back what was said"
            onClick={() => {
              keep.mutate(null);
            }}
          >
            <Trash2 size={14} />
          </button>
        </>
      )}
      <Problem of={keep.error} />
      {refused && <span className="text-error">{refused}</span>}
    </span>
  );
}

/** Records until it is ended, three minutes at most; `speaking` for so many seconds, null while it does not. */
function useMicrophone(onSound: (sound: Blob) => void) {
  const recorder = useRef<MediaRecorder | null>(null);
  const [speaking, setSpeaking] = useState<number | null>(null);
  const [refused, setRefused] = useState("");
  const going = speaking !== null;
  const end = () => {
    if (recorder.current?.state === "recording") recorder.current.stop();
  };
  useEffect(() => {
    if (!going) return;
    const clock = setInterval(() => {
      setSpeaking((old) => (old === null ? null : old + 1));
    }, 1000);
    const most = setTimeout(end, LONGEST * 1000);
    return () => {
      clearInterval(clock);
      clearTimeout(most);
    };
  }, [going]);
  useEffect(() => end, []);
  const begin = async () => {
    setRefused("");
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ audio: true });
      const own = new MediaRecorder(stream);
      const parts: Blob[] = [];
      own.ondataavailable = ({ data }) => parts.push(data);
      own.onstop = () => {
        stream.getTracks().forEach((track) => {
          track.stop();
        });
        setSpeaking(null);
        onSound(new Blob(parts, { type: own.mimeType.split(";")[0] ?? "" }));
      };
      own.start();
      recorder.current = own;
      setSpeaking(0);
    } catch {
      setRefused("The microphone is not to be had: allow it in the browser, or plug one in.");
    }
  };
  return { speaking, refused, begin: () => void begin(), end };
}
