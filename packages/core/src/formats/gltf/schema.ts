import * as z from 'zod';

const index = z.number().int().min(0).max(1_000_000);
const loose = z.looseObject({});

/** What is read of a glTF document (2.0, chapter 5). */
export const Gltf = z.looseObject({
  asset: z.looseObject({
    version: z.string(),
    minVersion: z.string().optional(),
    extras: z.looseObject({ origin: z.string().optional() }).optional(),
  }),
  scene: index.optional(),
  scenes: z
    .array(z.looseObject({ nodes: z.array(index).optional() }))
    .max(1000)
    .default([]),
  nodes: z
    .array(
      z.looseObject({
        name: z.string().optional(),
        mesh: index.optional(),
        children: z.array(index).optional(),
        matrix: z.array(z.number()).length(16).optional(),
        translation: z.array(z.number()).length(3).optional(),
        rotation: z.array(z.number()).length(4).optional(),
        scale: z.array(z.number()).length(3).optional(),
      }),
    )
    .max(100_000)
    .default([]),
  meshes: z
    .array(
      z.looseObject({
        name: z.string().optional(),
        primitives: z
          .array(
            z.looseObject({
              attributes: z.record(z.string(), index),
              indices: index.optional(),
              material: index.optional(),
              mode: z.number().int().min(0).max(6).optional(),
            }),
          )
          .min(1),
      }),
    )
    .max(100_000)
    .default([]),
  materials: z
    .array(
      z.looseObject({
        pbrMetallicRoughness: z.looseObject({ baseColorFactor: z.array(z.number()).length(4).optional() }).optional(),
      }),
    )
    .default([]),
  accessors: z
    .array(
      z.looseObject({
        bufferView: index.optional(),
        byteOffset: z.number().int().min(0).optional(),
        componentType: z.number(),
        normalized: z.boolean().optional(),
        count: z.number().int().min(0).max(1e9),
        type: z.string(),
        sparse: loose.optional(),
        min: z.array(z.number()).optional(),
        max: z.array(z.number()).optional(),
      }),
    )
    .default([]),
  bufferViews: z
    .array(
      z.looseObject({
        buffer: index,
        byteOffset: z.number().int().min(0).optional(),
        byteLength: z.number().int().min(0),
        byteStride: z.number().int().min(4).max(252).optional(),
      }),
    )
    .default([]),
  buffers: z.array(z.looseObject({ uri: z.string().optional(), byteLength: z.number().int().min(0) })).default([]),
  extensionsRequired: z.array(z.string()).optional(),
  animations: z.array(loose).optional(),
  skins: z.array(loose).optional(),
});
export type Gltf = z.infer<typeof Gltf>;
