import { definePreset } from '@primeuix/themes';
import Aura from '@primeuix/themes/aura';

const ink = {
  50: '#eef1f8',
  100: '#dfe5f4',
  200: '#bcc8e6',
  300: '#93a6d4',
  400: '#6680bd',
  500: '#2b4180',
  600: '#263a73',
  700: '#203263',
  800: '#1a2950',
  900: '#14213a',
  950: '#0c1426',
};
const film = {
  0: '#ffffff',
  50: '#f8faf8',
  100: '#ebf0ed',
  200: '#dde5e0',
  300: '#c9d4ce',
  400: '#9fada6',
  500: '#74819a',
  600: '#5b6981',
  700: '#46546d',
  800: '#2a3a55',
  900: '#14213a',
  950: '#0c1426',
};

/** Drafting film: the component library in our colours, hairlines and sizes. */
export const FilmPreset = definePreset(Aura, {
  primitive: { borderRadius: { xs: '3px', sm: '4px', md: '6px', lg: '8px', xl: '10px' } },
  components: {
    select: { root: { shadow: 'none' }, option: { padding: '0.25rem 0.6rem' }, list: { padding: '0.2rem' } },
    inputtext: { root: { shadow: 'none' } },
    textarea: { root: { shadow: 'none' } },
    menu: { item: { padding: '0.3rem 0.7rem' }, list: { padding: '0.2rem' } },
    datatable: {
      header: { background: 'transparent' },
      headerCell: { background: 'transparent', hoverBackground: '{surface.50}', sm: { padding: '3px 14px' } },
      sortIcon: { size: '0.7rem' },
      row: { background: 'transparent' },
      bodyCell: { sm: { padding: '5px 14px' } },
    },
    paginator: { root: { background: 'transparent', padding: '2px 6px' }, navButton: { width: '1.9rem', height: '1.9rem' } },
    popover: { content: { padding: '0.8rem 0.9rem' } },
  },
  semantic: {
    primary: ink,
    focusRing: { width: '2px', style: 'solid', color: '{primary.400}', offset: '2px' },
    formField: {
      paddingX: '0.6rem',
      paddingY: '0.35rem',
      sm: { fontSize: '0.8125rem', paddingX: '0.45rem', paddingY: '0.2rem' },
    },
    colorScheme: {
      light: {
        surface: film,
        primary: {
          color: '{primary.500}',
          hoverColor: '{primary.600}',
          activeColor: '{primary.700}',
          contrastColor: '#ffffff',
        },
      },
      dark: { primary: { color: '#93a6d4', hoverColor: '#bcc8e6', activeColor: '#dfe5f4', contrastColor: '#0c1426' } },
    },
  },
});
