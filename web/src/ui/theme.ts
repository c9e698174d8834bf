import type { ThemeConfig } from "antd";

/** Paper and enamel: few colours, each with one job. */
export const colour = {
  paper: "#efe9db",
  enamel: "#fbf8f0",
  line: "#d5cbb5",
  ink: "#1f2a2b",
  soft: "#565f5d",
  action: "#155e63",
  bar: "#17393d",
  alarm: "#b8321a",
  warn: "#8a5300",
  metal: "#8f9a99",
};

const chosen = "#e3ece6";

export const theme: ThemeConfig = {
  token: {
    colorPrimary: colour.action,
    colorLink: colour.action,
    colorLinkHover: colour.action,
    colorError: colour.alarm,
    colorWarning: colour.warn,
    colorSuccess: colour.action,
    colorText: colour.ink,
    colorTextSecondary: colour.soft,
    colorTextDescription: colour.soft,
    colorTextPlaceholder: "#6f6a5c",
    colorTextDisabled: "#5f6462",
    colorBorder: colour.line,
    colorBorderSecondary: colour.line,
    colorBgContainer: colour.enamel,
    colorBgElevated: colour.enamel,
    colorBgLayout: colour.paper,
    fontFamily: '"Barlow", sans-serif',
    fontSize: 17,
    fontSizeSM: 15,
    controlHeight: 48,
    controlHeightSM: 36,
    controlHeightLG: 60,
    controlInteractiveSize: 26,
    borderRadius: 8,
    wireframe: false,
    // a dialog that is still unfolding loses what is typed into it
    motion: false,
  },
  components: {
    Select: { optionHeight: 48, optionLineHeight: "34px", optionSelectedBg: chosen },
    DatePicker: { cellHeight: 36, cellWidth: 48 },
    Table: {
      headerBg: "transparent",
      headerColor: colour.soft,
      headerSplitColor: "transparent",
      rowHoverBg: "#f5f0e3",
      cellPaddingBlock: 10,
      cellPaddingInline: 10,
      cellPaddingBlockSM: 7,
      cellPaddingInlineSM: 6,
    },
    Tabs: {
      horizontalItemPadding: "8px 0",
      horizontalItemGutter: 10,
      horizontalMargin: "0 0 12px",
    },
    Form: { itemMarginBottom: 0, verticalLabelPadding: "0 0 4px", labelFontSize: 16 },
    Tag: { fontSizeSM: 14 },
  },
};
