<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="pl" sourcelanguage="en">
<context>
    <name></name>
    <message id="app_name">
        <source>Skerry Line</source>
        <extracomment>The name of the company; it stays as it is</extracomment>
        <translation type="unfinished"></translation>
    </message>
    <message id="website">
        <source>https://skerryline.example</source>
        <translation type="unfinished"></translation>
    </message>
    <message id="sailings_title">
        <source>Sailings</source>
        <extracomment>Title of the list of sailings</extracomment>
        <translation>Rejsy</translation>
    </message>
    <message id="sailings_today">
        <source>Today&apos;s sailings</source>
        <extracomment>Heading above the sailings of the day</extracomment>
        <translation>Dzisiejsze rejsy</translation>
    </message>
    <message id="sailings_none">
        <source>No sailings today</source>
        <extracomment>Shown when no ferry leaves today</extracomment>
        <translation>Dziś nie ma rejsów</translation>
    </message>
    <message id="sailing_route">
        <source>%1 to %2</source>
        <extracomment>One sailing: island of departure and of arrival</extracomment>
        <translation>%1 – %2</translation>
    </message>
    <message id="sailing_departs">
        <source>Departs at %1</source>
        <extracomment>Time of departure of one sailing</extracomment>
        <translation>Odpływa o %1</translation>
    </message>
    <message id="sailing_duration" numerus="yes">
        <source>%n minutes</source>
        <extracomment>How long a crossing takes</extracomment>
        <translation>
            <numerusform>%n minuta</numerusform>
            <numerusform>%n minuty</numerusform>
            <numerusform>%n minut</numerusform>
        </translation>
    </message>
    <message id="sailing_space">
        <source>%1% of the deck is free</source>
        <extracomment>How much of the car deck is still free</extracomment>
        <translation>Wolne jest %1% pokładu</translation>
    </message>
    <message id="booking_title">
        <source>Book a crossing</source>
        <extracomment>Title of the booking screen</extracomment>
        <translation>Zarezerwuj przeprawę</translation>
    </message>
    <message id="booking_passengers">
        <source>Passengers</source>
        <extracomment>Label of the number of passengers</extracomment>
        <translation>Pasażerowie</translation>
    </message>
    <message id="booking_bicycles">
        <source>Bicycles</source>
        <extracomment>Label of the number of bicycles</extracomment>
        <translation>Rowery</translation>
    </message>
    <message id="booking_cars">
        <source>Cars</source>
        <extracomment>Label of the number of cars</extracomment>
        <translation>Samochody</translation>
    </message>
    <message id="booking_count_passengers" numerus="yes">
        <source>%n passengers</source>
        <translation>
            <numerusform>%n pasażer</numerusform>
            <numerusform>%n pasażerów</numerusform>
            <numerusform>%n pasażerów</numerusform>
        </translation>
    </message>
    <message id="booking_count_bicycles" numerus="yes">
        <source>%n bicycles</source>
        <translation>
            <numerusform>%n rower</numerusform>
            <numerusform>%n rowery</numerusform>
            <numerusform>%n rowerów</numerusform>
        </translation>
    </message>
    <message id="booking_price">
        <source>Total: %1</source>
        <extracomment>Price of the whole booking</extracomment>
        <translation>Razem: %1</translation>
    </message>
    <message id="booking_confirm">
        <source>Confirm booking</source>
        <extracomment>Button that books and pays</extracomment>
        <translation>Potwierdź rezerwację</translation>
    </message>
    <message id="booking_done">
        <source>Your booking code is %1. Show it on board.</source>
        <extracomment>Shown after booking; the code is letters and digits</extracomment>
        <translation>Kod rezerwacji: %1. Okaż go na pokładzie.</translation>
    </message>
    <message id="boarding_title">
        <source>Boarding pass</source>
        <extracomment>Title of the boarding pass</extracomment>
        <translation>Karta pokładowa</translation>
    </message>
    <message id="boarding_greeting">
        <source>Welcome aboard, %1!</source>
        <extracomment>Greets the passenger by first name</extracomment>
        <translation>Witamy na pokładzie, %1!</translation>
    </message>
    <message id="boarding_deck">
        <source>Deck %1</source>
        <extracomment>Number of the deck</extracomment>
        <translation>Pokład %1</translation>
    </message>
    <message id="boarding_gate">
        <source>Go to pier &lt;b&gt;%1&lt;/b&gt;</source>
        <extracomment>The pier is a letter and a number</extracomment>
        <translation>Przejdź na przystań &lt;b&gt;%1&lt;/b&gt;</translation>
    </message>
    <message id="boarding_closes" numerus="yes">
        <source>Boarding closes in %n minutes</source>
        <extracomment>Time left to board</extracomment>
        <translation>
            <numerusform>Koniec wsiadania za %n minutę</numerusform>
            <numerusform>Koniec wsiadania za %n minuty</numerusform>
            <numerusform>Koniec wsiadania za %n minut</numerusform>
        </translation>
    </message>
    <message id="delay_title">
        <source>Weather delay</source>
        <extracomment>Title of the notice of a delay</extracomment>
        <translation>Opóźnienie z powodu pogody</translation>
    </message>
    <message id="delay_reason">
        <source>Strong wind on the outer skerries</source>
        <translation>Silny wiatr przy zewnętrznych szkierach</translation>
    </message>
    <message id="delay_minutes" numerus="yes">
        <source>Your sailing is %n minutes late</source>
        <extracomment>How late the sailing is</extracomment>
        <translation>
            <numerusform>Rejs opóźniony o %n minutę</numerusform>
            <numerusform>Rejs opóźniony o %n minuty</numerusform>
            <numerusform>Rejs opóźniony o %n minut</numerusform>
        </translation>
    </message>
    <message id="delay_call">
        <source>Questions? Call %1</source>
        <extracomment>Telephone number of the harbour office</extracomment>
        <translation>Masz pytania? Zadzwoń: %1</translation>
    </message>
    <message id="map_title">
        <source>Harbour map</source>
        <extracomment>Title of the harbour map</extracomment>
        <translation>Plan portu</translation>
    </message>
    <message id="map_pier">
        <source>Pier %1</source>
        <extracomment>A pier on the map</extracomment>
        <translation>Przystań %1</translation>
    </message>
    <message id="settings_title">
        <source>Settings</source>
        <translation>Ustawienia</translation>
    </message>
    <message id="settings_language">
        <source>Language</source>
        <extracomment>Label of the language menu</extracomment>
        <translation>Język</translation>
    </message>
    <message id="settings_follow">
        <source>Follow the device</source>
        <extracomment>Choice in the language menu: the language of the device</extracomment>
        <translation>Jak w urządzeniu</translation>
    </message>
    <message id="action_back">
        <source>Back</source>
        <extracomment>Button that goes to the screen before</extracomment>
        <translation>Wstecz</translation>
    </message>
    <message id="action_next">
        <source>Next</source>
        <extracomment>Button that goes on to the next step</extracomment>
        <translation>Dalej</translation>
    </message>
    <message id="action_cancel">
        <source>Cancel</source>
        <translation>Anuluj</translation>
    </message>
    <message id="action_retry">
        <source>Try again</source>
        <translation>Spróbuj ponownie</translation>
    </message>
</context>
</TS>
