import fc from 'fast-check';
import { codedWords, plainWords, readExchange } from '../src/engines/solids/part21';
import { StepWords } from '../src/engines/solids/step-words';
import { runs } from '../../core/test/depth';

const file = (data: string, head = "FILE_SCHEMA(('AP242'));") =>
  new TextEncoder().encode(`ISO-10303-21;\nHEADER;\n${head}\nENDSEC;\nDATA;\n${data}\nENDSEC;\nEND-ISO-10303-21;\n`);

describe('exchange files (ISO 10303-21)', () => {
  it('say words in plain letters, and mean them in all', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 20 }), (letters) => {
        const words = letters.replace(/[\u0000-\u001f]/g, ' ');
        const coded = codedWords(words).replace(/\\(?!X)/g, '\\\\');
        expect(coded).toMatch(/^[\x20-\x7e]*$/);
        if (!words.includes('\\') && !words.includes("''")) expect(plainWords(codedWords(words))).toBe(words);
      }),
    );
    expect(plainWords('of \\X2\\01\r\n00\\X0\\ a\nll')).toBe('of Ā all');
    expect(plainWords("it''s \\X\\E4 \\X4\\0001F600\\X0\\ \\S\\d \\\\")).toBe("it's ä 😀 ä \\");
  });

  it('hold values of every kind, with notes and line ends anywhere', () => {
    const { entities, schema } = readExchange(
      file("/* first */ #1 = A('it''s', -1.5E-3, .T., $, *, (1,(2,3),()), #2, LENGTH(4.), \"0F\") ;\r\n#2=(B(1)C(#1)\r\n);"),
    );
    expect(schema).toBe('AP242');
    expect(entities.get(1)!.kinds).toEqual([
      { kind: 'A', values: ["it's", -0.0015, '.T.', null, null, [1, [2, 3], []], { ref: 2 }, ['LENGTH', 4], '"0F"'] },
    ]);
    expect(entities.get(2)!.kinds.map(({ kind }) => kind)).toEqual(['B', 'C']);
  });

  it('read letters that other writers put in as they are', () => {
    const name = (bytes: Uint8Array) => readExchange(bytes).entities.get(1)!.kinds[0]!.values[0];
    expect(name(file("#1=A('Größe');"))).toBe('Größe');
    expect(name(Uint8Array.from(Buffer.from(Buffer.from(file("#1=A('Gr\u00f6\u00dfe');")).toString(), 'latin1')))).toBe('Größe');
  });

  it.each([
    ['no such file', new TextEncoder().encode('solid x'), /does not begin/],
    ['cut off in its head', new TextEncoder().encode('ISO-10303-21;\nHEADER;\n'), /ends before its data/],
    ['cut off in its data', new TextEncoder().encode('ISO-10303-21;\nDATA;\n#1=A();\n'), /middle of its data/],
    ['twice the same', file('#1=A();\n#1=B();'), /#1 is there twice in line 7/],
    ['missing', file('#1=A(#7);'), /#7 is named and not there in line 6/],
    ['a text without end', file("#1=A('x);"), /text does not end in line 6/],
    ['a note without end', file('#1=A(); /* x'), /note does not end/],
    ['no value', file('#1=A(%);'), /“%\);” is no value in line 6/],
    ['no end', new TextEncoder().encode('ISO-10303-21;\nDATA;\n#1=A();\nENDSEC;\n'), /does not end as it should/],
  ])('say what is wrong and where: %s', (_, bytes, words) => {
    expect(() => readExchange(bytes)).toThrow(words);
  });

  it('name solids by their products, and paint them by their styles', () => {
    const words = new StepWords(
      readExchange(
        file(`#1=PRODUCT('id','Foot','',());#2=PRODUCT_DEFINITION_FORMATION('','',#1);#3=PRODUCT_DEFINITION('','',#2,$);
#4=PRODUCT_DEFINITION_SHAPE('','',#3);#5=SHAPE_DEFINITION_REPRESENTATION(#4,#6);#6=ADVANCED_BREP_SHAPE_REPRESENTATION('',(#7,#8),$);
#7=MANIFOLD_SOLID_BREP('',$);#8=MANIFOLD_SOLID_BREP('',$);#9=STYLED_ITEM('',(#10),#7);#10=SURFACE_STYLE_USAGE(.BOTH.,#11);
#11=FILL_AREA_STYLE_COLOUR('',#12);#12=COLOUR_RGB('',1.,0.5,0.);#13=STYLED_ITEM('',(#14),#15);#14=FILL_AREA_STYLE_COLOUR('',#16);
#15=ADVANCED_FACE('',(),$,.T.);#16=DRAUGHTING_PRE_DEFINED_COLOUR('blue');#17=GEOMETRIC_CURVE_SET('',());`),
      ),
    );
    // Bodies of one product that are painted otherwise are told apart.
    expect(words.bodies()).toEqual([
      { name: 'Foot', colour: '#ff8000', bodies: 1 },
      { name: 'Foot', colour: '', bodies: 1 },
    ]);
    expect([...words.others()]).toEqual([
      ['geometric curve set', 1],
      ['colour of a single face', 1],
    ]);
  });

  it('end in bounded time, whatever bytes they are', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('(', ')', "'", '#1', '=', ';', ',', '$', '/*', '*/', 'A', '1.', '\\X2\\', ' ')),
        (parts) => {
          try {
            readExchange(file(`#1=A(${parts.join('')});`));
          } catch (error) {
            expect((error as { code?: string }).code).toBe('step-damaged');
          }
        },
      ),
      { numRuns: runs(400) },
    );
  });
});
