import "@fontsource/barlow/400.css";
import "@fontsource/barlow/500.css";
import "@fontsource/barlow/600.css";
import "@fontsource/barlow-semi-condensed/500.css";
import "@fontsource/barlow-semi-condensed/700.css";
import "./styles.css";
// the kit before any room, whichever is entered first
import "./ui/ask.module.css";
import "./ui/chips.module.css";
import "./ui/controls.module.css";
import "./ui/lists.module.css";
import "./ui/page.module.css";
import "./ui/question.module.css";
import "./ui/states.module.css";
import "./ui/text.module.css";
import "./ui/ticks.module.css";
import "./ui/verdict.module.css";
import "./ui/why.module.css";
import "./ui/wide.module.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { App as Notices, ConfigProvider } from "antd";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { Refusal } from "./api/client";
import { App } from "./App";
import { theme } from "./ui/theme";

const client = new QueryClient({
  defaultOptions: {
    queries: {
      // a refusal stays a refusal; a silent server is asked again
      retry: (count, error) => !(error instanceof Refusal) && count < 2,
      refetchOnWindowFocus: true,
    },
  },
});

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <ConfigProvider theme={theme}>
          <Notices message={{ maxCount: 2 }}>
            <BrowserRouter>
              <App />
            </BrowserRouter>
          </Notices>
        </ConfigProvider>
      </QueryClientProvider>
    </StrictMode>,
  );
}
