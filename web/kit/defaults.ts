import type { DefaultsInstance } from 'vuetify';

/** A caption stands above its value: the label of a single-line field is placed there by kit.css. */
const FIELD = { variant: 'outlined', density: 'compact', singleLine: true, hideDetails: 'auto' } as const;
const MENU = { maxHeight: 320, transition: false } as const;
const TICK = { density: 'compact', hideDetails: 'auto', ripple: false, color: 'primary' } as const;

/** How Vuetify's controls are set up in this application; kit.css draws them. */
export const DEFAULTS: DefaultsInstance = {
  VBtn: { variant: 'flat', ripple: false, elevation: 0 },
  VDialog: { maxWidth: 640 },
  VTextField: FIELD,
  VTextarea: { ...FIELD, rows: 3 },
  VNumberInput: { ...FIELD, controlVariant: 'hidden' },
  VFileInput: FIELD,
  VSelect: { ...FIELD, menuProps: MENU, listProps: { density: 'compact' } },
  VAutocomplete: { ...FIELD, menuProps: MENU, listProps: { density: 'compact' } },
  VCombobox: { ...FIELD, menuProps: MENU, listProps: { density: 'compact' } },
  VCheckbox: TICK,
  VCheckboxBtn: TICK,
  VRadioGroup: { density: 'compact', hideDetails: 'auto' },
  VRadio: { density: 'compact', ripple: false, color: 'primary' },
  VTable: { density: 'compact' },
  VList: { density: 'compact' },
  VMenu: { transition: false },
  VExpansionPanels: { variant: 'accordion', static: true, elevation: 0 },
  VTooltip: { transition: false, openDelay: 300 },
};
