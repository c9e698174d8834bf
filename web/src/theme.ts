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

export const theme: ThemeConfig = {
  token: {
    colorPrimary: colour.action,
    colorLink: colour.action,
    colorLinkHover: colour.action,
    colorError: colour.alarm,
    colorWarning: colour.warn,
    colorText: colour.ink,
    colorTextSecondary: colour.soft,
    colorBorder: colour.line,
    colorBgContainer: colour.enamel,
    colorBgLayout: colour.paper,
    fontFamily: '"Barlow", sans-serif',
    fontSize: 17,
    controlHeight: 48,
    controlHeightLG: 60,
    borderRadius: 8,
    wireframe: false,
    // a dialog that is still unfolding loses what is typed into it
    motion: false,
  },
};
