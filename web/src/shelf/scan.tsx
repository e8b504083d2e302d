import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, body } from "@/api/client";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/field";
import { Said } from "@/ui/notice";

/** How often a picture of the camera is looked at [ms]. */
const EVERY = 250;
const IN_THIS_KITCHEN = /\/shelf\/(\d+)$/;

/** A label under the camera, or its code typed, and its jar's page is there. */
export function Scan({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [code, setCode] = useState("");
  const navigate = useNavigate();
  const typed = useMutation({
    mutationFn: (said: string) =>
      body(api.GET("/api/jar-codes/{code}", { params: { path: { code: said } } })),
    onSuccess: (jar) => navigate(`/shelf/${jar.id}`),
  });
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Which jar?"
      lead="its label under the camera, or its code"
    >
      <Camera
        onRead={(text) => {
          const jar = IN_THIS_KITCHEN.exec(text)?.[1];
          if (jar) void navigate(`/shelf/${jar}`);
        }}
      />
      <form
        className="mt-3 grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          typed.mutate(code.trim());
        }}
      >
        <TextField
          label="What is on its label"
          value={code}
          onChange={setCode}
          placeholder="DM-26-01-03"
        />
        <Button kind="go" type="submit" disabled={code.trim() === ""}>
          Go to it
        </Button>
        <Said error={typed.error} />
      </form>
    </Dialog>
  );
}

/** What the camera sees; nothing where there is none or nobody lets us look. */
function Camera({ onRead }: { onRead: (text: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [state, setState] = useState<"asking" | "looking" | "none">("asking");
  const read = useRef(onRead);
  read.current = onRead;
  useEffect(() => {
    let stream: MediaStream | undefined;
    let timer: ReturnType<typeof setInterval> | undefined;
    let over = false;
    const begin = async () => {
      const [{ default: jsQR }, taken] = await Promise.all([
        import("jsqr"),
        navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } }),
      ]);
      stream = taken;
      const seen = video.current;
      if (over || !seen) {
        for (const track of taken.getTracks()) track.stop();
        return;
      }
      seen.srcObject = taken;
      await seen.play();
      setState("looking");
      const paper = document.createElement("canvas");
      timer = setInterval(() => {
        paper.width = seen.videoWidth;
        paper.height = seen.videoHeight;
        const pen = paper.getContext("2d", { willReadFrequently: true });
        if (!pen || !paper.width) return;
        pen.drawImage(seen, 0, 0);
        const { data, width, height } = pen.getImageData(0, 0, paper.width, paper.height);
        const found = jsQR(data, width, height);
        if (found) read.current(found.data);
      }, EVERY);
    };
    begin().catch(() => setState("none"));
    return () => {
      over = true;
      clearInterval(timer);
      for (const track of stream?.getTracks() ?? []) track.stop();
    };
  }, []);
  if (state === "none")
    return (
      <p className="text-lg text-slate">No camera here: type the code that is on the label.</p>
    );
  return (
    <video
      ref={video}
      muted
      playsInline
      aria-label="What the camera sees"
      className="aspect-video w-full border-2 border-line bg-iron object-cover"
    />
  );
}
