# The headline test of pairs, from the answers alone: Rscript headline.R answers.csv
#
# For each part with pairs: net wins of every listener for every chain, less what the panel's common liking for the
# recording that came first gives; block test on them in its F form (Iman & Davenport 1980). R's own packages only.
# It reads complete panels, in which every listener judged every chain; of others it says so.

headline <- function(rows) {
  outcome <- c(a = 1, b = -1, tie = 0)[rows$response]
  order <- ifelse(rows$first == "a", 1, ifelse(rows$first == "b", -1, 0))
  liking <- if (any(order != 0)) sum(order * outcome) / sum(order != 0) else 0
  won <- outcome - order * liking
  chains <- sort(unique(c(rows$chain, rows$chain_b)))
  listeners <- unique(rows$listener)
  net <- matrix(0, length(listeners), length(chains), dimnames = list(listeners, chains))
  met <- net
  for (i in seq_len(nrow(rows))) {
    g <- rows$listener[i]
    net[g, rows$chain[i]] <- net[g, rows$chain[i]] + won[i]
    net[g, rows$chain_b[i]] <- net[g, rows$chain_b[i]] - won[i]
    met[g, c(rows$chain[i], rows$chain_b[i])] <- 1
  }
  k <- ncol(net)
  b <- nrow(net)
  if (sum(rowSums(net^2) > 1e-9) < 3 || any(met == 0)) return(NA)
  statistic <- (k - 1) * sum((colSums(net) - mean(colSums(net)))^2) / sum((net - rowMeans(net))^2)
  smallest <- factorial(k)^(1 - b)
  rest <- b * (k - 1) - statistic
  if (rest <= 1e-9) return(smallest)
  max(smallest, pf((b - 1) * statistic / rest, k - 1, (b - 1) * (k - 1), lower.tail = FALSE))
}

answers <- read.csv(commandArgs(TRUE)[1], colClasses = "character", encoding = "UTF-8")
if (is.null(answers$part)) answers$part <- "1"
if (is.null(answers$control)) answers$control <- ""
answers <- answers[answers$task == "pair" & answers$control == "" & answers$response %in% c("a", "b", "tie"), ]
for (part in sort(unique(answers$part))) {
  rows <- answers[answers$part == part, ]
  p <- headline(rows)
  said <- if (is.na(p)) "no test: too few listeners, or not everybody judged every chain" else sprintf("p = %.6g", p)
  cat(sprintf("part %s: %d answers of %d listeners, %s\n", part, nrow(rows), length(unique(rows$listener)), said))
}
