// The face models: loaded from the package's files into a thread of their own, run by WebAssembly. Nothing is fetched.
// Package: @vladmandic/human (MIT); see docs/people.md for what the models are and where they come from.

import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import type { Config, FaceResult, Human } from '@vladmandic/human';

/** Pixels as the models take them: three channels of 8 bits, row by row. */
export interface Pixels {
  data: Uint8Array;
  width: number;
  height: number;
}

export interface Models {
  /** Boxes of faces, in pixels, with how sure each is; a thousandth of a second or so each. */
  detect(pixels: Pixels): Promise<{ left: number; top: number; width: number; height: number; score: number }[]>;
  /** The face nearest to the middle of a picture: its mesh of 468 points in pixels, its description and its expression. */
  describe(pixels: Pixels): Promise<Described | undefined>;
}

export interface Described {
  mesh: readonly (readonly (number | undefined)[])[];
  /** 1024 numbers. */
  description: readonly number[];
  /** Radians: to the image's right, up, clockwise. */
  turned: { yaw: number; pitch: number; roll: number };
  /** How happy the expression is, 0 to 1. */
  happy: number;
  score: number;
}

const require_ = createRequire(__filename);
const ROOT = join(dirname(require_.resolve('@vladmandic/human')), '..');

const CONFIG: Partial<Config> = {
  backend: 'wasm',
  modelBasePath: `${pathToFileURL(join(ROOT, 'models')).href}/`,
  cacheSensitivity: 0,
  filter: { enabled: false },
  warmup: 'none',
  debug: false,
  body: { enabled: false },
  hand: { enabled: false },
  object: { enabled: false },
  gesture: { enabled: false },
  segmentation: { enabled: false },
};

const parts = (enabled: boolean) => ({
  mesh: { enabled },
  iris: { enabled },
  emotion: { enabled, minConfidence: 0 },
  description: { enabled, minConfidence: 0 },
  antispoof: { enabled: false },
  liveness: { enabled: false },
});
const DETECT: Partial<Config> = {
  face: { enabled: true, detector: { maxDetected: 40, minConfidence: 0.25, rotation: false }, ...parts(false) },
};
const DESCRIBE: Partial<Config> = {
  face: { enabled: true, detector: { maxDetected: 3, minConfidence: 0.15, rotation: true }, ...parts(true) },
};

/** Loads the models; takes about a second. */
export async function openModels(): Promise<Models> {
  readModelsFromFiles();
  const wasm = require_('@tensorflow/tfjs-backend-wasm') as { setWasmPaths: (folder: string) => void };
  wasm.setWasmPaths(`${dirname(require_.resolve('@tensorflow/tfjs-backend-wasm/wasm-out/tfjs-backend-wasm.wasm'))}/`);
  // The build for WebAssembly; the package's own entry is that for a native library.
  const { Human: Maker } = require_(join(ROOT, 'dist', 'human.node-wasm.js')) as {
    Human: new (config: Partial<Config>) => Human;
  };
  const human = new Maker({ ...CONFIG, ...DESCRIBE });
  await human.tf.setBackend('wasm');
  await human.load();

  const faces = async ({ data, width, height }: Pixels, config: Partial<Config>): Promise<FaceResult[]> => {
    const tensor = human.tf.tensor3d(data, [height, width, 3], 'int32');
    try {
      const { face, error } = await human.detect(tensor, config);
      if (error) throw new Error(error);
      return face;
    } finally {
      human.tf.dispose(tensor);
    }
  };

  return {
    async detect(pixels) {
      return (await faces(pixels, DETECT)).map(({ box: [left, top, width, height], boxScore: score }) => ({
        left,
        top,
        width,
        height,
        score,
      }));
    },

    async describe(pixels) {
      const found = await faces(pixels, DESCRIBE);
      const [middle] = found
        .filter(({ mesh, embedding }) => mesh.length >= MESH_POINTS && embedding && embedding.length > 0)
        .sort((a, b) => offCentre(a, pixels) - offCentre(b, pixels));
      if (!middle?.embedding) return undefined;
      const { yaw = 0, pitch = 0, roll = 0 } = middle.rotation?.angle ?? {};
      return {
        mesh: middle.mesh,
        description: middle.embedding,
        turned: { yaw, pitch, roll },
        happy: middle.emotion?.find(({ emotion }) => emotion === 'happy')?.score ?? 0,
        score: middle.faceScore,
      };
    },
  };
}

const MESH_POINTS = 468;

function offCentre({ box: [left, top, width, height] }: FaceResult, pixels: Pixels): number {
  return Math.hypot(left + width / 2 - pixels.width / 2, top + height / 2 - pixels.height / 2);
}

/** The package reads its models by `fetch`: in this thread that reads files, and nothing else. */
function readModelsFromFiles(): void {
  globalThis.fetch = async (address) => {
    const url = new URL(address instanceof Request ? address.url : address);
    if (url.protocol !== 'file:') throw new Error(`models are read from files only, not from ${url.href}`);
    const type = url.pathname.endsWith('.json') ? 'application/json' : 'application/octet-stream';
    return new Response(await readFile(fileURLToPath(url)), { headers: { 'content-type': type } });
  };
}
