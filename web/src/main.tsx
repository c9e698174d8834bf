import "@fontsource/barlow/400.css";
import "@fontsource/barlow/500.css";
import "@fontsource/barlow/600.css";
import "@fontsource/barlow-semi-condensed/500.css";
import "@fontsource/barlow-semi-condensed/700.css";
import "./styles.css";
import "./workshop/frame.css";
import "./ui/ask.css";
import "./ui/lists.css";
import "./workshop/doors.css";
import "./ui/narrow.css";
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
