// What came in with drawings, until it is closed: how large each is, the question what its units are where it does not
// say, which strokes are lines, and by what one can see the things that were not taken as they are; a click shows their
// places, one after the other. It goes when nothing of what came is left.
#pragma once

#include "app/cards/card.h"
#include "app/session/line_fault_finder.h"
#include "app/session/opening.h"

class QPushButton;
class QVBoxLayout;

namespace frelm {

using CleanStep = std::function<Document(const Document&)>;

class CameInCard : public Card {
  Q_OBJECT

public:
  explicit CameInCard(Session& session, QWidget* parent = nullptr);
  // In the place of what was shown; nothing worth telling: it stays closed until it is asked for.
  void show_arrivals(std::vector<Arrival> arrivals);
  void replace(std::size_t at, Arrival arrival); // it was taken once more
  void show_again();                             // after it was closed
  bool holds() const;                            // is something of it still there?
  const std::vector<Arrival>& arrivals() const { return arrivals_; }
  void refresh() override;

signals:
  void look_at(const frelm::Box& place);
  void size_wanted(std::size_t at, double size);
  void again_wanted(std::size_t at, const frelm::TakeAs& as);
  void place_wanted(std::size_t at); // where the file has it
  void clean_wanted(const QString& step, const frelm::CleanStep& clean);

private:
  void build();
  void add_sizes(QVBoxLayout* list, std::size_t at);
  void add_page(QVBoxLayout* list, std::size_t at);
  void add_lines(QVBoxLayout* list, std::size_t at);
  void add_left_out(QVBoxLayout* list, std::size_t at);
  void add_offers(QVBoxLayout* list, std::size_t at);
  bool is_there(const Arrival& arrival) const;
  void show_sizes();

  void show_offers();
  void show_faults();
  void show_faults(std::size_t at, const LineFaults& found);

  std::vector<Arrival> arrivals_;             // as the drawings stand now
  std::vector<std::vector<Arrival>> earlier_; // how each was taken before; undone, it is that again
  LineFaultFinder faults_;
  std::vector<std::vector<QPushButton*>> size_buttons_; // of each
  struct Offer {                                        // a row that is there while it can be taken
    QWidget* row;
    QLabel* words;
    QPushButton* button;
  };
  std::vector<Offer> place_offers_, material_offers_;
  std::vector<QWidget*> fault_rows_; // of each; what they hold comes and goes with the document
  QVBoxLayout* holder_;
  QWidget* inside_ = nullptr;
};

} // namespace frelm
