import { Failure, type NotUnderstood } from '@inkwell-twin/core';
import type { Shape3D } from 'replicad';
import type { Kernel } from './kernel';
import { codedWords, readExchange } from './part21';
import { unsoundIn } from './step-sound';
import { StepWords } from './step-words';

interface NamedShape {
  readonly shape: Shape3D;
  readonly name: string;
  readonly colour: string;
}

/** A part of a colour as light, which the kernel keeps (IEC 61966-2-1). */
const light = (value: number): number => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);

/** Shapes with names and colours as an exchange file. */
export function writeShapes({ oc }: Kernel, shapes: readonly NamedShape[], unit: 'mm' | 'inch'): string {
  const words = (text: string) => new oc.TCollection_ExtendedString(text, true);
  const document = new oc.TDocStd_Document(words('XmlOcaf'));
  oc.XCAFDoc_ShapeTool.SetAutoNaming(false);
  const main = document.Main();
  const tool = oc.XCAFDoc_DocumentTool.ShapeTool(main);
  const paint = oc.XCAFDoc_DocumentTool.ColorTool(main);
  for (const { shape, name, colour } of shapes) {
    // A compound would become an assembly: a solid alone is one product.
    const [only, ...more] = shape.solids;
    const label = tool.NewShape();
    tool.SetShape(label, more.length ? shape.wrapped : only!.wrapped);
    oc.TDataStd_Name.Set(label, words(codedWords(name)));
    if (!colour) continue;
    const [r, g, b] = [1, 3, 5].map((at) => light(parseInt(colour.slice(at, at + 2), 16) / 255)) as [number, number, number];
    paint.SetColor(label, new oc.Quantity_ColorRGBA(r, g, b, 1), oc.XCAFDoc_ColorType.XCAFDoc_ColorSurf);
  }
  tool.UpdateAssemblies();
  const statics = oc.Interface_Static;
  const session = new oc.XSControl_WorkSession();
  // The first writer of a process defines the settings.
  new oc.STEPCAFControl_Writer().delete();
  statics.SetCVal('xstep.cascade.unit', 'MM');
  statics.SetCVal('write.step.unit', unit.toUpperCase());
  statics.SetIVal('write.surfacecurve.mode', 1);
  statics.SetIVal('write.precision.mode', 0);
  // Several shapes in a document stand side by side, each a product of its own.
  statics.SetIVal('write.step.assembly', 0);
  statics.SetIVal('write.step.schema', 5);
  const writer = new oc.STEPCAFControl_Writer(session, false);
  writer.SetColorMode(true);
  writer.SetNameMode(true);
  const progress = new oc.Message_ProgressRange();
  const file = 'written.step';
  try {
    if (!writer.Perform(document, file, progress))
      throw new Failure('solid-invalid', 'The kernel could not write these solids as STEP.');
    const text = new TextDecoder('latin1').decode(oc.FS.readFile(`/${file}`) as Uint8Array);
    oc.FS.unlink(`/${file}`);
    return text;
  } finally {
    for (const one of [progress, writer, session, document]) one.delete();
  }
}

/** Largest file that is read, bytes. */
const LARGEST = 200 * 1024 * 1024;

/**
 * Reads the solids of an exchange file with their names and colours.
 * @param precision how finely places are told apart, mm; as the file says where nothing is said
 * @throws Failure `step-damaged` with the line, `nothing-inside`
 */
export async function readShapes(
  kernel: Kernel,
  bytes: Uint8Array,
  precision?: number,
): Promise<{ solids: NamedShape[]; told: NotUnderstood[] }> {
  if (bytes.length > LARGEST)
    throw new Failure('file-too-large', `The file has ${Math.round(bytes.length / 1048576)} MB; up to 200 MB are read.`);
  const { r, oc } = kernel;
  const exchange = readExchange(bytes);
  const words = new StepWords(exchange);
  const named = words.bodies();
  oc.FS.writeFile('/read.step', bytes);
  const reader = new oc.STEPControl_Reader();
  let shape: Shape3D | undefined;
  try {
    oc.Interface_Static.SetCVal('xstep.cascade.unit', 'MM');
    oc.Interface_Static.SetIVal('read.precision.mode', precision === undefined ? 0 : 1);
    if (precision !== undefined) oc.Interface_Static.SetRVal('read.precision.val', precision);
    reader.ReadFile('read.step');
    reader.TransferRoots();
    if (reader.NbShapes()) shape = r.cast(reader.OneShape()) as Shape3D;
  } finally {
    oc.FS.unlink('/read.step');
    reader.delete();
  }
  const bodies = shape?.solids ?? [];
  const told = [...words.others(), ...unsoundIn(kernel, exchange, shape)].map(([kind, count]): NotUnderstood => ({
    kind,
    count,
    shows: true,
  }));
  if (named.reduce((sum, one) => sum + one.bodies, 0) !== bodies.length)
    // Placed several times, or made of each other: then order tells nothing, and each body stands for itself.
    return { solids: bodies.map((body) => ({ shape: body as Shape3D, name: '', colour: '' })), told };
  let at = 0;
  const solids = named.map(({ name, colour, bodies: count }) => {
    const own = bodies.slice(at, (at += count));
    return { shape: (count === 1 ? own[0]! : r.makeCompound(own)) as Shape3D, name, colour };
  });
  return { solids, told };
}
