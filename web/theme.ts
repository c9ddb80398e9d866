import { createTheme } from '@mui/material/styles';

/** None when the system asks for less motion. */
const still = typeof matchMedia === 'function' && matchMedia('(prefers-reduced-motion: reduce)').matches;
const NONE = { transitionDuration: 0 };

/** Ticks stand in lines of text. */
const TICK = { padding: 2, '& .MuiSvgIcon-root': { fontSize: 18 } };

/** MUI takes its colours from the same custom properties as the rest, so light and dark follow the system together. */
export const theme = createTheme({
  cssVariables: true,
  colorSchemes: {
    light: {
      palette: {
        primary: { main: '#6b3a63' },
        error: { main: '#b0402f' },
        warning: { main: '#8a5c10' },
        success: { main: '#20605a' },
        background: { default: '#e8eef0', paper: '#ffffff' },
        text: { primary: '#17303a', secondary: '#566973' },
        divider: '#d3dde1',
      },
    },
    dark: {
      palette: {
        primary: { main: '#d6a3cc' },
        error: { main: '#f0948a' },
        warning: { main: '#e3b25f' },
        success: { main: '#7fcabf' },
        background: { default: '#0f1a1f', paper: '#1a2a31' },
        text: { primary: '#e4edf0', secondary: '#a3b5bd' },
        divider: '#2f434c',
      },
    },
  },
  typography: {
    fontFamily: '"Public Sans Variable", sans-serif',
    fontSize: 12,
    button: { textTransform: 'none', fontWeight: 500 },
  },
  ...(still ? { transitions: { create: () => 'none' } } : {}),
  shape: { borderRadius: 7 },
  components: {
    ...(still ? { MuiPopover: { defaultProps: NONE }, MuiMenu: { defaultProps: NONE } } : {}),
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: { defaultProps: { size: 'small', disableElevation: true } },
    MuiTextField: { defaultProps: { size: 'small' } },
    MuiOutlinedInput: { styleOverrides: { input: { paddingBlock: 5, fontSize: 13 } } },
    MuiSelect: { defaultProps: { size: 'small' } },
    MuiCheckbox: { defaultProps: { size: 'small' }, styleOverrides: { root: TICK } },
    MuiRadio: { defaultProps: { size: 'small' }, styleOverrides: { root: TICK } },
    MuiAutocomplete: { defaultProps: { size: 'small' } },
    MuiMenuItem: { defaultProps: { dense: true } },
    MuiTooltip: { defaultProps: { enterDelay: 500 } },
  },
});
