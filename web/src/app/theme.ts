import { createTheme, type MantineColorsTuple } from '@mantine/core';

const ink: MantineColorsTuple = ['#f4f2ec', '#dedbd2', '#c3c1b7', '#a3a89f', '#7f857b', '#5f645c', '#484d47', '#363c38', '#1f2421', '#141816'];

/** Mantine in the look of tokens.css. */
export const theme = createTheme({
  fontFamily: "'Source Sans 3 Variable', system-ui, sans-serif",
  headings: { fontFamily: "'Source Serif 4 Variable', Georgia, serif", fontWeight: '650' },
  fontSizes: { xs: '11px', sm: '13px', md: '13px', lg: '15px', xl: '18px' },
  colors: { ink },
  primaryColor: 'ink',
  primaryShade: { light: 8, dark: 1 },
  autoContrast: true,
  defaultRadius: 6,
  cursorType: 'pointer',
  components: {
    Button: { defaultProps: { size: 'sm' } },
    TextInput: { defaultProps: { size: 'sm' } },
    Select: {
      defaultProps: { size: 'sm', comboboxProps: { shadow: 'sm' }, allowDeselect: false, withScrollArea: false, styles: { options: { maxHeight: 240, overflowY: 'auto' } } },
    },
    Textarea: { defaultProps: { size: 'sm' } },
    Modal: { defaultProps: { closeButtonProps: { 'aria-label': 'Close' } } },
    Drawer: { defaultProps: { closeButtonProps: { 'aria-label': 'Close' } } },
    // What has the focus first is its first entry; an empty stand-in would be no entry of a menu.
    Menu: { defaultProps: { withInitialFocusPlaceholder: false } },
    Tooltip: { defaultProps: { openDelay: 350, withArrow: true } },
  },
});
